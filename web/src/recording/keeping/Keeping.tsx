import { useTranslation } from 'react-i18next'
import { filmAddress } from '../../api/client'
import type { FilmRow, RecordingPage } from '../../contract.generated'
import { CutForm } from '../CutForm'
import { RecordedPapers } from '../RecordedPapers'
import { useTranscript } from '../useTranscript'
import { Part, Saved } from './Part'
import { Films } from './Films'
import { About } from './About'
import { Share } from './Share'
import { People } from './People'
import { Consents } from './Consents'

interface Props {
  page: RecordingPage
  /** The personal link by which somebody sees it. */
  film: FilmRow | null
  onFilm: (film: string) => void
}

/** What one may do with a recording: everybody saves; whoever keeps it names, shares, composes and deletes it. */
export function Keeping({ page, film, onFilm }: Props) {
  const { t } = useTranslation()
  const id = page.recording.id
  const captioned = (useTranscript(id, film?.id ?? null).data?.cues.length ?? 0) > 0
  return (
    <div className="mt-6 grid gap-x-8 gap-y-6 md:grid-cols-2 xl:grid-cols-3">
      <Part title={t('player.save')}>
        {film && (
          <ul className="flex flex-col gap-1">
            <Saved address={filmAddress(id, film.id, 'film.webm', true)} label={t('player.saveFilm')} />
            {captioned && <Saved address={filmAddress(id, film.id, 'captioned.webm')} label={t('player.saveCaptioned')} />}
            <Saved address={filmAddress(id, film.id, 'chapters.vtt')} label={t('player.saveChapters')} />
            {captioned && (
              <>
                <Saved address={filmAddress(id, film.id, 'captions.vtt', true)} label={t('player.saveCaptions')} />
                <Saved address={filmAddress(id, film.id, 'transcript.txt')} label={t('player.saveTranscript')} />
              </>
            )}
            {page.keeps && <Saved address={`/api/recordings/${id}/tracks.zip`} label={t('player.saveTracks')} />}
          </ul>
        )}
        <RecordedPapers id={id} />
        {!film && page.keeps && <Saved address={`/api/recordings/${id}/tracks.zip`} label={t('player.saveTracks')} />}
      </Part>
      {page.keeps && page.recording.endedAt !== null && (
        <>
          <Films page={page} film={film} onFilm={onFilm} />
          {film && (
            <Part title={t('player.cut')}>
              <CutForm key={film.id} id={id} film={film} onMade={onFilm} />
            </Part>
          )}
          <About key={page.recording.name} page={page} />
          <Share page={page} />
          <People page={page} />
          <Consents page={page} />
        </>
      )}
    </div>
  )
}

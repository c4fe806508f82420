import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import { Link, useParams } from 'react-router'
import { filmAddress, recordings, Refused } from '../api/client'
import type { FilmRow, RecordingPage as Page } from '../contract.generated'
import { clock, dateAndTime } from '../i18n'
import { Placard } from '../ui/Placard'
import { ScreenTitle, SkipLink } from '../ui/ScreenTitle'
import { Failed, Loading } from '../ui/States'
import { FilmPlayer } from './FilmPlayer'
import { Keeping } from './keeping/Keeping'
import { megabytes, useFilmState } from './library'

const isBusy = (page: Page) =>
  page.recording.endedAt === null || page.recording.films.some((film) => film.state === 'waiting' || film.state === 'composing')

/** A recording, for whoever may see it: its film with chapters and who spoke; for whoever keeps it what can be done with it. */
export default function RecordingPage() {
  const { t } = useTranslation()
  const { id = '' } = useParams()
  const [film, setFilm] = useState<string | null>(null)
  const page = useQuery({
    queryKey: ['recording', id, film],
    queryFn: () => recordings.page(id, film),
    placeholderData: (before) => before,
    refetchInterval: (query) => (query.state.data && isBusy(query.state.data) ? 1_500 : false),
  })
  if (page.error instanceof Refused && page.error.reason === 'noSuchRecording')
    return (
      <Placard title={t('player.noSuch')} spine="brick">
        <p>{t('player.noSuchHint')}</p>
      </Placard>
    )
  if (page.error && !page.data) return <Failed sentence={page.error.message} onRetry={() => void page.refetch()} />
  if (!page.data) return <Loading />
  const { recording, keeps } = page.data
  const shown = recording.films.find((one) => one.id === page.data.film)
  return (
    <div className="flex min-h-dvh flex-col">
      <SkipLink to="film" label={t('common.skip')} />
      <header className="flex flex-wrap items-center gap-x-6 bg-felt px-6 py-2.5 text-on-felt max-sm:px-3">
        <div className="min-w-0 flex-1">
          <ScreenTitle title={recording.name} className="font-serif text-[1.25rem] leading-tight font-semibold" />
          <p className="text-[0.844rem] text-on-felt2">
            {[
              ...(recording.name === recording.sessionTitle ? [] : [recording.sessionTitle]),
              dateAndTime(recording.startedAt),
              clock(shown?.length ?? recording.length),
              ...(shown ? [t('library.size', { size: megabytes(shown.size) })] : []),
            ].join(' · ')}
          </p>
        </div>
        {keeps && (
          <Link to="/recordings" className="min-h-6 text-[0.875rem] underline underline-offset-4">
            {t('library.title')}
          </Link>
        )}
      </header>
      <main id="film" tabIndex={-1} className="mx-auto w-full max-w-7xl flex-1 px-6 py-4 outline-none max-sm:px-3">
        {shown ? (
          <FilmPlayer key={shown.id} page={page.data} film={shown} address={filmAddress(id, shown.id, 'film.webm')} />
        ) : (
          <NoFilm films={recording.films} runs={recording.endedAt === null} />
        )}
        <Keeping page={page.data} film={shown ?? null} onFilm={setFilm} />
      </main>
    </div>
  )
}

function NoFilm({ films, runs }: { films: readonly FilmRow[]; runs: boolean }) {
  const { t } = useTranslation()
  const state = useFilmState()
  return (
    <section className="mb-6 border border-l-8 border-line border-l-plum bg-paper p-6">
      <h2 className="font-serif text-[1.25rem] font-semibold">{t(runs ? 'library.running' : 'player.noFilm')}</h2>
      {films.map((film) => (
        <p key={film.id} className="mt-2 flex items-center gap-3" role="status">
          {film.progress && (
            <progress value={film.progress.share} max={1} aria-label={t('player.film')} className="h-2 w-64 accent-plum" />
          )}
          {state(film)}
        </p>
      ))}
    </section>
  )
}

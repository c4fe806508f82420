import { useEffect, useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { MeRow } from '../contract.generated'
import { clock } from '../i18n'
import { wish } from '../live/connection'
import type { Sitting } from '../live/store'
import { useNow } from '../live/time'
import { megabytes } from '../recording/library'
import { Button } from '../ui/Button'
import { lookForFilms, removeFilm, saveFilm, useKeptFilms } from './keptFilms'
import { beginOwnFilm, endOwnFilm, lacks, pauseOwnFilm, useOwnFilm } from './ownFilm'

/** Recording on one's own machine: begin, pause, go on, end, and what lies in this browser. */
export function OwnRecordingPanel({ me, sitting }: { me: MeRow; sitting: Sitting }) {
  const { t } = useTranslation()
  const { phase, recorded, since } = useOwnFilm()
  useNow()
  const missing = lacks()
  const { rules, own } = sitting.recording
  const elsewhere = phase === 'off' && own.some((one) => one.seat === me.seat)
  return (
    <section className="flex flex-col gap-2 border-t border-line pt-3" aria-label={t('ownRecording.title')}>
      <h3 className="font-serif text-[0.938rem] font-semibold">{t('ownRecording.title')}</h3>
      {missing.length > 0 ? (
        <p className="border-l-4 border-brass pl-2 text-[0.875rem]">
          {missing.map((one) => t(`ownRecording.lacks.${one}`)).join(' ')} {t('ownRecording.lacksHint')}
        </p>
      ) : (
        <>
          <div className="flex flex-wrap items-center gap-2">
            {phase === 'off' ? (
              <Button
                onClick={() =>
                  void beginOwnFilm(sitting.session.title, { names: rules.names, pictures: rules.framing !== 'sound' })
                }
              >
                {t('ownRecording.begin')}
              </Button>
            ) : (
              <>
                <b className="min-w-14 text-plum tabular-nums" data-testid="own-recorded">
                  {/* eslint-disable-next-line react-hooks/purity -- renewed each second */}
                  {clock(recorded + (since === null ? 0 : performance.now() - since))}
                </b>
                <Button disabled={phase === 'begins' || phase === 'ends'} onClick={() => pauseOwnFilm(phase === 'running')}>
                  {t(phase === 'paused' ? 'recording.goOn' : 'recording.pause')}
                </Button>
                <Button
                  disabled={phase === 'begins' || phase === 'ends'}
                  onClick={() => void endOwnFilm().then(() => wish({ do: 'endOwnRecording' }))}
                >
                  {t('ownRecording.end')}
                </Button>
              </>
            )}
            {elsewhere && (
              <Button look="text" onClick={() => void wish({ do: 'endOwnRecording' })}>
                {t('ownRecording.endElsewhere')}
              </Button>
            )}
          </div>
          <p className="text-[0.812rem] text-ink2">{t('ownRecording.hint')}</p>
        </>
      )}
      <KeptFilms />
    </section>
  )
}

/** Recordings that lie in this browser, also those of a page that broke off. */
export function KeptFilms() {
  const { t } = useTranslation()
  const { films } = useKeptFilms()
  const { phase, name } = useOwnFilm()
  const [asked, setAsked] = useState<string | null>(null)
  useEffect(() => void lookForFilms(), [phase])
  const done = films.filter((film) => phase === 'off' || film.name !== name)
  if (done.length === 0) return null
  return (
    <div className="text-[0.875rem]">
      <p className="font-semibold">{t('ownRecording.kept')}</p>
      <p className="text-[0.812rem] text-ink2">{t('ownRecording.keptHint')}</p>
      <ul className="flex flex-col gap-1">
        {done.map((film) => (
          <li key={film.name} className="flex flex-wrap items-center gap-2">
            <span className="min-w-0 flex-1 break-words">
              {film.name} · {t('library.size', { size: megabytes(film.size) })}
            </span>
            <Button small onClick={() => void saveFilm(film.name)}>
              {t('ownRecording.save')}
            </Button>
            {asked === film.name ? (
              <Button small look="end" onClick={() => void removeFilm(film.name)}>
                {t('ownRecording.removeSure')}
              </Button>
            ) : (
              <Button small look="text" onClick={() => setAsked(film.name)}>
                {t('ownRecording.remove')}
              </Button>
            )}
          </li>
        ))}
      </ul>
    </div>
  )
}

import { useEffect, useState } from 'react'
import { useTranslation } from 'react-i18next'
import { megabytes } from '../recording/library'
import { Button } from '../ui/Button'
import { lookForFilms, removeFilm, saveFilm, useKeptFilms } from './keptFilms'

/** Recordings that lie in this browser, also those of a page that broke off. */
export function KeptFilms({ writing = null }: { writing?: string | null }) {
  const { t } = useTranslation()
  const { films } = useKeptFilms()
  const [asked, setAsked] = useState<string | null>(null)
  useEffect(() => void lookForFilms(), [writing])
  const done = films.filter((film) => film.name !== writing)
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

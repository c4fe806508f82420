import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import { recordings } from '../../api/client'
import type { FilmRow, RecordingPage } from '../../contract.generated'
import { clock } from '../../i18n'
import { Button } from '../../ui/Button'
import { Failure } from '../../ui/Failure'
import { megabytes, useFilmState } from '../library'
import { Part } from './Part'
import { useAct } from './useAct'
import { Compose } from './Compose'

export function Films({ page, film, onFilm }: { page: RecordingPage; film: FilmRow | null; onFilm: (film: string) => void }) {
  const { t } = useTranslation()
  const state = useFilmState()
  const { id, films } = page.recording
  const [composes, setComposes] = useState(false)
  const [asking, setAsking] = useState<string | null>(null)
  const cancel = useAct(id, (one: string) => recordings.cancelFilm(id, one))
  const again = useAct(id, (one: string) => recordings.filmAgain(id, one))
  const drop = useAct(id, (one: string) => recordings.dropFilm(id, one))
  return (
    <Part title={t('player.films')}>
      <ul className="flex flex-col gap-1.5">
        {films.map((one) => {
          const name = [
            one.framing ? t(`recording.framingName.${one.framing}`) : t('player.asRecorded'),
            ...(one.cuts.length > 0 ? [t('player.cutFilm')] : []),
            ...(one.state === 'ready' ? [clock(one.length), t('library.size', { size: megabytes(one.size) })] : []),
          ].join(', ')
          return (
            <li key={one.id} className="flex flex-wrap items-center gap-2 text-[0.906rem]">
              {one.state === 'ready' ? (
                <Button
                  small
                  look={one.id === film?.id ? 'primary' : 'plain'}
                  aria-pressed={one.id === film?.id}
                  onClick={() => onFilm(one.id)}
                >
                  {name}
                </Button>
              ) : (
                <span className={one.state === 'failed' ? 'text-brick' : ''} role="status">
                  {name}: {state(one)}
                </span>
              )}
              {(one.state === 'waiting' || one.state === 'composing') && (
                <Button small onClick={() => cancel.mutate(one.id)}>
                  {t('player.cancel')}
                </Button>
              )}
              {(one.state === 'failed' || one.state === 'cancelled') && (
                <Button small onClick={() => again.mutate(one.id)}>
                  {t('player.again')}
                </Button>
              )}
              {one.state !== 'waiting' &&
                one.state !== 'composing' &&
                (asking === one.id ? (
                  <>
                    <Button small look="end" onClick={() => drop.mutate(one.id)}>
                      {t('player.dropFilm')}
                    </Button>
                    <Button small onClick={() => setAsking(null)}>
                      {t('common.back')}
                    </Button>
                  </>
                ) : (
                  <Button small look="text" aria-label={`${t('player.dropFilm')}: ${name}`} onClick={() => setAsking(one.id)}>
                    {t('common.remove')}
                  </Button>
                ))}
            </li>
          )
        })}
      </ul>
      <Failure of={[cancel.error, again.error, drop.error]} />
      {composes ? (
        <Compose id={id} onDone={() => setComposes(false)} />
      ) : (
        <Button className="mt-2" onClick={() => setComposes(true)}>
          {t('player.compose')}
        </Button>
      )}
    </Part>
  )
}

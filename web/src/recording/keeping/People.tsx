import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import { recordings } from '../../api/client'
import type { RecordingPage } from '../../contract.generated'
import { Button } from '../../ui/Button'
import { Failure } from '../../ui/Failure'
import { megabytes } from '../library'
import { Part } from './Part'
import { useAct } from './useAct'

export function People({ page }: { page: RecordingPage }) {
  const { t } = useTranslation()
  const [asking, setAsking] = useState<number | null>(null)
  const takeOut = useAct(page.recording.id, (seat: number) => recordings.takeOut(page.recording.id, seat))
  if (page.tracks.length === 0) return null
  return (
    <Part title={t('player.people')}>
      <ul className="flex flex-col gap-1">
        {page.tracks.map((track) => (
          <li key={track.seat} className="flex flex-wrap items-center gap-2 text-[0.906rem]">
            <span className="flex-1">
              {track.name}{' '}
              <span className="text-[0.812rem] text-ink2">{t('library.size', { size: megabytes(track.bytes) })}</span>
            </span>
            {asking === track.seat ? (
              <>
                <span className="basis-full text-[0.844rem]">{t('player.takeOutSure', { name: track.name })}</span>
                <Button small look="end" onClick={() => takeOut.mutate(track.seat)}>
                  {t('player.takeOut')}
                </Button>
                <Button small onClick={() => setAsking(null)}>
                  {t('common.back')}
                </Button>
              </>
            ) : (
              <Button
                small
                look="text"
                aria-label={`${t('player.takeOut')}: ${track.name}`}
                onClick={() => setAsking(track.seat)}
              >
                {t('player.takeOut')}
              </Button>
            )}
          </li>
        ))}
      </ul>
      <Failure of={[takeOut.error]} />
    </Part>
  )
}

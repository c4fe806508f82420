import { clsx } from 'clsx'
import type { ReactNode } from 'react'
import { useTranslation } from 'react-i18next'
import { media, useMedia } from '../media/engine'
import { Button } from '../ui/Button'
import { useLive, useTellings, type Telling } from '../live/store'

interface Props {
  /** Over what follows, and under the banners that stand before it; else at the head of the window, as on a phone. */
  over?: boolean
}

/** What has to be said now: a lost line, blocked sound, a refusal, a changed right. Spoken by screen readers, too. */
export function Notices({ over = false }: Props) {
  const { t } = useTranslation()
  const line = useLive((state) => state.line)
  const { up, interrupted, slow, sound } = useMedia()
  const tellings = useTellings((state) => state.tellings)
  const said = (kind: Telling['kind'], spine: string) =>
    line === 'up' &&
    tellings
      .filter((one) => one.kind === kind)
      .map((one) => (
        <Notice key={one.id} spine={spine}>
          {one.text}
        </Notice>
      ))
  return (
    <div className={over ? 'md:relative' : undefined}>
      <div
        className={clsx(
          'pointer-events-none fixed inset-x-0 top-16 z-20 flex flex-col items-center gap-2 px-4',
          over ? 'md:absolute md:top-2' : '',
        )}
      >
        <div role="alert" className="contents">
          {line === 'lost' && <Notice spine="border-brick">{t('connection.lost')}</Notice>}
          {said('refusal', 'border-brick')}
        </div>
        <div role="status" className="contents">
          {said('news', 'border-felt-ink')}
          {line === 'up' && interrupted && <Notice spine="border-brick">{t('connection.media')}</Notice>}
          {line === 'up' && up && slow && <Notice spine="border-brass">{t('connection.slow')}</Notice>}
          {line === 'up' && up && sound !== 'on' && (
            <Notice spine="border-brass">
              {t(sound === 'blocked' ? 'connection.sound' : 'connection.soundSilent')}
              <Button small look="primary" onClick={() => media.allowSound()}>
                {t(sound === 'blocked' ? 'connection.soundOn' : 'common.retry')}
              </Button>
            </Notice>
          )}
        </div>
      </div>
    </div>
  )
}

/** What is under it can be pointed at and drawn on all the same. */
function Notice({ spine, children }: { spine: string; children: ReactNode }) {
  return (
    <p
      className={clsx(
        `flex max-w-xl items-center gap-3 border-l-4 ${spine}`,
        'bg-raised px-4 py-2 text-[0.906rem] font-medium shadow-md [&_button]:pointer-events-auto',
      )}
    >
      {children}
    </p>
  )
}

import { useTranslation } from 'react-i18next'
import { media, useMedia } from '../media/engine'
import { Button } from '../ui/Button'
import { useLive, useTold, type Told } from './store'

interface Props {
  /** Over what follows, and under the banners that stand before it; else at the head of the window, as on a phone. */
  over?: boolean
}

/** What has to be said now: a lost line, blocked sound, a refusal, a changed right. Spoken by screen readers, too. */
export function Notices({ over = false }: Props) {
  const { t } = useTranslation()
  const line = useLive((state) => state.line)
  const { up, interrupted, slow, soundBlocked } = useMedia()
  const told = useTold((state) => state.told)
  const said = (kind: Told['kind'], spine: string) =>
    line === 'up' &&
    told
      .filter((one) => one.kind === kind)
      .map((one) => (
        <p
          key={one.id}
          className={`pointer-events-auto max-w-xl border-l-4 ${spine} bg-raised px-4 py-2 text-[0.906rem] font-medium shadow-md`}
        >
          {one.text}
        </p>
      ))
  return (
    <div className={over ? 'md:relative' : undefined}>
      <div
        className={`pointer-events-none fixed inset-x-0 top-16 z-20 flex flex-col items-center gap-2 px-4 ${over ? 'md:absolute md:top-2' : ''}`}
      >
        <div role="alert" className="contents">
          {line === 'lost' && (
            <p className="pointer-events-auto border-l-4 border-brick bg-raised px-4 py-2 text-[0.906rem] font-medium shadow-md">
              {t('connection.lost')}
            </p>
          )}
          {said('refusal', 'border-brick')}
        </div>
        <div role="status" className="contents">
          {said('news', 'border-felt-ink')}
          {line === 'up' && interrupted && (
            <p className="pointer-events-auto border-l-4 border-brick bg-raised px-4 py-2 text-[0.906rem] font-medium shadow-md">
              {t('connection.media')}
            </p>
          )}
          {line === 'up' && up && slow && (
            <p className="pointer-events-auto border-l-4 border-brass bg-raised px-4 py-2 text-[0.906rem] font-medium shadow-md">
              {t('connection.slow')}
            </p>
          )}
          {line === 'up' && up && soundBlocked && (
            <p className="pointer-events-auto flex items-center gap-3 border-l-4 border-brass bg-raised px-4 py-2 text-[0.906rem] font-medium shadow-md">
              {t('connection.sound')}
              <Button small look="primary" onClick={() => media.allowSound()}>
                {t('connection.soundOn')}
              </Button>
            </p>
          )}
        </div>
      </div>
    </div>
  )
}

import { useTranslation } from 'react-i18next'
import type { Recess } from '../contract.generated'
import { clock, timeOfDay } from '../i18n'
import { wish } from '../live/connection'
import { useNow } from '../live/time'
import { Button } from '../ui/Button'

/** What stands in the picture's place during a recess. */
export function Holding({ recess }: { recess: Recess }) {
  const { t } = useTranslation()
  const now = useNow()
  const left = recess.until === null ? null : recess.until - now
  return (
    <section
      aria-label={t('recess.title')}
      className="grid min-h-64 flex-1 place-items-center border border-line bg-felt px-8 text-on-felt"
    >
      <div className="max-w-2xl text-center">
        <p className="text-[1rem] text-on-felt2">{t('recess.title')}</p>
        <p className="mt-2 font-serif text-[clamp(1.5rem,4vw,2.5rem)] leading-tight font-semibold whitespace-pre-line">
          {recess.words || t('recess.defaultWords')}
        </p>
        {left !== null && recess.until !== null && (
          <p className="mt-6">
            <time className="text-[clamp(2.5rem,8vw,4.5rem)] leading-none font-semibold">{clock(Math.max(0, left))}</time>
            <span className="mt-2 block text-[1rem] text-on-felt2">
              {left > 0 ? t('recess.goesOnAt', { time: timeOfDay(recess.until) }) : t('recess.soon')}
            </span>
          </p>
        )}
        <p className="mt-6 text-[0.938rem] text-on-felt2">{t('recess.rest')}</p>
      </div>
    </section>
  )
}

/** The same for the bench, which goes on seeing itself: what the others see, and the way to end it. */
export function RecessBanner({ recess }: { recess: Recess }) {
  const { t } = useTranslation()
  const now = useNow()
  const left = recess.until === null ? null : recess.until - now
  return (
    <aside
      aria-label={t('recess.title')}
      className="mb-2 flex items-center gap-4 border border-l-[6px] border-line border-l-felt-ink bg-felt-soft px-4 py-2.5"
    >
      <div className="min-w-0 flex-1">
        <p className="text-[0.812rem] text-ink2">{t('recess.benchHint')}</p>
        <p className="font-serif text-[1.125rem] leading-snug">{recess.words || t('recess.defaultWords')}</p>
      </div>
      {left !== null && (
        <p className={`text-[1.25rem] font-semibold whitespace-nowrap ${left < 0 ? 'text-brick' : ''}`}>
          <time>{left < 0 ? t('time.over', { time: clock(-left) }) : clock(left)}</time>
        </p>
      )}
      <Button look="primary" onClick={() => void wish({ do: 'resume' })}>
        {t('recess.end')}
      </Button>
    </aside>
  )
}

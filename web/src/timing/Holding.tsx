import { useTranslation } from 'react-i18next'
import type { Recess } from '../contract.generated'
import { clock, timeOfDay } from '../i18n'
import { useNow } from '../live/time'

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

import { useTranslation } from 'react-i18next'
import { wish } from '../live/connection'
import type { Within } from '../topics/slots'

/** While a session is being prepared: that it is, and its beginning. */
export function BeginItem({ sitting }: Within) {
  const { t } = useTranslation()
  if (sitting.session.phase !== 'prepare') return null
  return (
    <button
      className="shrink-0 border-l border-brass bg-brass-soft px-4 text-left text-ink"
      onClick={() => void wish({ do: 'begin' })}
    >
      <span className="block text-[0.719rem] text-brass-ink">{t('prepare.now')}</span>
      <span className="block text-[0.844rem] font-semibold whitespace-nowrap">{t('prepare.begin')}</span>
    </button>
  )
}

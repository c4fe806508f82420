import { useTranslation } from 'react-i18next'
import { languages, setLanguage } from '../i18n'

/** The language, for those who are not inside yet. */
export function LanguageChoice() {
  const { t, i18n } = useTranslation()
  return (
    <select
      aria-label={t('settings.language')}
      value={i18n.language}
      onChange={(e) => void setLanguage(e.target.value)}
      className="min-h-7 rounded-sm border border-edge bg-raised px-1.5 text-[0.844rem] text-ink"
    >
      {Object.entries(languages).map(([code, name]) => (
        <option key={code} value={code} lang={code}>
          {name}
        </option>
      ))}
    </select>
  )
}

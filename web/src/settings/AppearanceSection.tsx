import { useTranslation } from 'react-i18next'
import { languages, setLanguage } from '../i18n'
import { Choice } from '../ui/Choice'
import { Select } from '../ui/Field'
import { change, textSizes, useSettings, type Density, type Theme } from './store'

/** Language, light or dark, size of the text, and how close the strips stand. */
export function AppearanceSection() {
  const { t, i18n } = useTranslation()
  const { theme, textSize, density } = useSettings()
  return (
    <div className="flex flex-col gap-3">
      <Select label={t('settings.language')} value={i18n.language} onChange={(e) => void setLanguage(e.target.value)}>
        {Object.entries(languages).map(([code, name]) => (
          <option key={code} value={code} lang={code}>
            {name}
          </option>
        ))}
      </Select>
      <Select label={t('settings.textSize')} value={textSize} onChange={(e) => change({ textSize: Number(e.target.value) })}>
        {textSizes.map((size) => (
          <option key={size} value={size}>
            {t('settings.percent', { count: size })}
          </option>
        ))}
      </Select>
      <fieldset>
        <legend className="text-[0.844rem] font-semibold">{t('settings.theme')}</legend>
        <Choice<Theme>
          label={t('settings.theme')}
          value={theme}
          options={(['system', 'light', 'dark'] as const).map((value) => ({ value, label: t(`settings.themes.${value}`) }))}
          onChange={(to) => change({ theme: to })}
        />
      </fieldset>
      <fieldset>
        <legend className="text-[0.844rem] font-semibold">{t('settings.density')}</legend>
        <Choice<Density>
          label={t('settings.density')}
          value={density}
          options={(['roomy', 'compact'] as const).map((value) => ({ value, label: t(`settings.densities.${value}`) }))}
          onChange={(to) => change({ density: to })}
        />
      </fieldset>
    </div>
  )
}

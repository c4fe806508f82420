import { useTranslation } from 'react-i18next'
import { namesOf } from '../i18n'
import { useSigns } from './store'

/** Reactions in the picture's corner; they come, are counted, and go. */
export function FadingSigns() {
  const { t } = useTranslation()
  const shown = useSigns((state) => state.shown)
  return (
    <ul
      aria-live="polite"
      aria-label={t('signs.shown')}
      className="pointer-events-none absolute top-3 left-3 z-10 flex max-w-[70%] flex-col items-start gap-1"
    >
      {shown.map(({ sign, count, names }) => (
        <li key={sign} className="border border-l-[5px] border-line border-l-moss bg-raised px-2.5 py-1 text-[0.875rem]">
          <b className="font-semibold">{t(`signs.sign.${sign}`)}</b>{' '}
          <span className="text-ink2">{namesOf(names.slice(0, count), count)}</span>
        </li>
      ))}
    </ul>
  )
}

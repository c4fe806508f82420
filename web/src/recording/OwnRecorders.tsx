import { useTranslation } from 'react-i18next'
import type { OwnRecorderRow } from '../contract.generated'

/** Who records on their own machine: everybody is told. */
export function OwnRecorders({ own }: { own: readonly OwnRecorderRow[] }) {
  const { t } = useTranslation()
  if (own.length === 0) return null
  const names = own.flatMap((one) => (one.name === null ? [] : [one.name]))
  return (
    <p className="border-l-4 border-plum pl-2 text-[0.875rem]">
      {names.length > 0 ? t('ownRecording.by', { names: names.join(', ') }) : t('ownRecording.bySomebody', { count: own.length })}
    </p>
  )
}

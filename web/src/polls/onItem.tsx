import { useTranslation } from 'react-i18next'
import type { OfItem, ItemPart } from '../topics/itemSlots'
import { Field } from '../ui/Field'

function Asks({ item, onChange }: OfItem) {
  const { t } = useTranslation()
  return (
    <Field
      label={t('runSheet.asks')}
      maxLength={400}
      value={item.asks ?? ''}
      onChange={(e) => onChange({ asks: e.target.value || null })}
      aria-description={t('runSheet.asksHint')}
    />
  )
}

export const polls: ItemPart = { at: 30, Fields: Asks }

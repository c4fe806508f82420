import { useTranslation } from 'react-i18next'
import type { OfItem, ItemPart } from '../topics/itemSlots'
import { Field } from '../ui/Field'

function Shows({ item, onChange }: OfItem) {
  const { t } = useTranslation()
  return (
    <Field
      label={t('runSheet.shows')}
      placeholder={t('runSheet.showsHint')}
      maxLength={120}
      value={item.shows ?? ''}
      onChange={(e) => onChange({ shows: e.target.value || null })}
    />
  )
}

export const exhibits: ItemPart = { at: 60, Fields: Shows }

import { useTranslation } from 'react-i18next'
import type { OfItem, ItemPart } from '../topics/itemSlots'
import { Select } from '../ui/Field'

function Records({ item, onChange }: OfItem) {
  const { t } = useTranslation()
  return (
    <Select
      label={t('runSheet.records')}
      value={item.records === null ? '' : item.records ? 'yes' : 'no'}
      onChange={(e) => onChange({ records: e.target.value === '' ? null : e.target.value === 'yes' })}
    >
      <option value="">{t('runSheet.leave')}</option>
      <option value="yes">{t('runSheet.recordsYes')}</option>
      <option value="no">{t('runSheet.recordsNo')}</option>
    </Select>
  )
}

export const recording: ItemPart = { at: 20, Fields: Records }

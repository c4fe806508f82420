import { useTranslation } from 'react-i18next'
import type { OfItem, ItemPart } from '../topics/itemSlots'
import { Tick } from '../ui/Field'

function OpensRooms({ item, onChange }: OfItem) {
  const { t } = useTranslation()
  return (
    <Tick
      label={t('runSheet.opensRooms')}
      checked={item.opensRooms}
      onChange={(e) => onChange({ opensRooms: e.target.checked })}
    />
  )
}

export const rooms: ItemPart = { at: 40, Fields: OpensRooms }

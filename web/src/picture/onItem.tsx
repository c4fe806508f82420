import { useTranslation } from 'react-i18next'
import type { Arrangement } from '../contract.generated'
import type { OfItem, ItemPart } from '../topics/itemSlots'
import { Select } from '../ui/Field'
import { arrangements } from './view'

function PictureOfItem({ item, onChange }: OfItem) {
  const { t } = useTranslation()
  return (
    <Select
      label={t('runSheet.picture')}
      value={item.picture ?? ''}
      onChange={(e) => onChange({ picture: (e.target.value || null) as Arrangement | null })}
    >
      <option value="">{t('runSheet.leave')}</option>
      {arrangements.map((one) => (
        <option key={one} value={one}>
          {t(`picture.${one}`)}
        </option>
      ))}
    </Select>
  )
}

export const picture: ItemPart = { at: 10, Fields: PictureOfItem }

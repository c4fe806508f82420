import { useTranslation } from 'react-i18next'
import type { Audience } from '../contract.generated'
import type { OfItem, ItemPart } from '../topics/itemSlots'
import { Select } from '../ui/Field'
import { audiences, orders as all, usualOrders } from './orders'

function OrdersOfItem({ item, onChange }: OfItem) {
  const { t } = useTranslation()
  return (
    <>
      <Select
        label={t('runSheet.orders')}
        value={item.orders ? 'set' : ''}
        onChange={(e) => onChange({ orders: e.target.value ? usualOrders : null })}
      >
        <option value="">{t('runSheet.leave')}</option>
        <option value="set">{t('runSheet.setOrders')}</option>
      </Select>
      {item.orders && (
        <div className="grid grid-cols-2 gap-2">
          {all.map((order) => (
            <Select
              key={order}
              label={t(`orders.name.${order}`)}
              value={item.orders![order]}
              onChange={(e) => onChange({ orders: { ...item.orders!, [order]: e.target.value as Audience } })}
            >
              {audiences.map((audience) => (
                <option key={audience} value={audience}>
                  {t(`orders.audience.${audience}`)}
                </option>
              ))}
            </Select>
          ))}
        </div>
      )}
    </>
  )
}

export const orders: ItemPart = { at: 50, Fields: OrdersOfItem }

import { clsx } from 'clsx'
import { useTranslation } from 'react-i18next'
import type { Order, SeatRow } from '../contract.generated'
import { wish } from '../live/connection'
import { exceptable } from './orders'

type May = 'given' | 'taken' | 'order' | 'mixed'

/** What single people may do, whatever the orders say. */
export function ExceptionForm({ chosen }: { chosen: readonly SeatRow[] }) {
  const { t } = useTranslation()
  const touched = chosen.filter((seat) => seat.place !== 'gone' && (seat.role === 'attendee' || seat.role === 'presenter'))
  const mayOf = (order: Order): May => {
    const kinds = new Set(
      touched.map((seat) => (seat.note?.given.includes(order) ? 'given' : seat.note?.taken.includes(order) ? 'taken' : 'order')),
    )
    return kinds.size === 1 ? [...kinds][0]! : 'mixed'
  }
  if (touched.length === 0) return <p className="text-[0.875rem] text-ink2">{t('reason.benchNotExcepted')}</p>
  const set = (order: Order, to: string) =>
    void wish({
      do: 'except',
      seats: touched.map((seat) => seat.id),
      order,
      may: to === 'given' ? true : to === 'taken' ? false : null,
    })
  return (
    <div className="flex flex-col gap-1">
      <p className="mb-1 text-[0.812rem] text-ink2">{t('orders.exceptionHint')}</p>
      {exceptable.map((order) => {
        const may = mayOf(order)
        return (
          <label key={order} className="flex min-h-7 items-center gap-2 text-[0.844rem]">
            <span className="flex-1">{t(`capabilityOf.${order}`)}</span>
            <select
              value={may}
              onChange={(e) => set(order, e.target.value)}
              className={clsx(
                'min-h-7 rounded-sm border px-1 text-[0.812rem]',
                may === 'order' ? 'border-line bg-paper' : 'border-brass bg-brass-soft',
              )}
            >
              <option value="order">{t('orders.byOrder')}</option>
              <option value="given">{t('orders.always')}</option>
              <option value="taken">{t('orders.never')}</option>
              {may === 'mixed' && <option value="mixed">{t('orders.mixed')}</option>}
            </select>
          </label>
        )
      })}
    </div>
  )
}

import { useMemo, useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { Audience, DoorMode, Order, StandingOrders, SeatRow } from '../contract.generated'
import type { Sitting } from '../live/store'
import { listOf, namesOf } from '../i18n'
import { wish } from '../live/connection'
import { useLive } from '../live/store'
import { Button } from '../ui/Button'
import { audiences, exceptable, orders, usualInRooms, usualOrders } from './orders'
import { GroupRules, RulesOfGroups, useRules } from './GroupRules'
import { PresetSection } from './PresetSection'
import { RibbonItem } from '../sittings/RibbonItem'
import { useForesight, useShifts } from './useForesight'

/** All orders, single people's exceptions, and presets, in one panel. */
export function OrdersItem({ sitting }: { sitting: Sitting }) {
  const { t } = useTranslation()
  const excepted = useExcepted()
  const exceptions = excepted.length + sitting.groups.rules.length
  const inRoom = sitting.rooms.here !== null
  const usual = inRoom ? usualInRooms : usualOrders
  const unusual = orders.filter((order) => sitting.orders[order] !== usual[order])
  // Microphones by leave are how many sessions go, and stand in the sentence without being marked.
  const marked = unusual.filter((order) => order !== 'speak' || sitting.orders.speak === 'bench')
  const value = [
    ...unusual.map((order) =>
      t('orders.is', {
        order: t(`orders.short.${order}`),
        value: order === 'speak' ? t(`orders.speak.${sitting.orders.speak}`) : t(`orders.brief.${sitting.orders[order]}`),
      }),
    ),
    ...(exceptions > 0 ? [t('orders.exceptions', { count: exceptions })] : []),
  ]
  return (
    <RibbonItem
      label={t(inRoom ? 'rooms.orders' : 'orders.title')}
      value={
        value.length === 0 ? t('orders.usual') : value.length > 2 ? t('orders.unusual', { count: value.length }) : listOf(value)
      }
      title={t(inRoom ? 'rooms.orders' : 'orders.title')}
      unusual={marked.length > 0}
      wide
    >
      <OrdersPanel standing={sitting.orders} excepted={excepted} door={sitting.door.mode ?? 'attended'} />
    </RibbonItem>
  )
}

const useExcepted = () => {
  const seats = useLive((state) => state.seats)
  return useMemo(
    () =>
      [...seats.values()].filter(
        (seat) => seat.note && seat.place !== 'gone' && seat.note.given.length + seat.note.taken.length > 0,
      ),
    [seats],
  )
}

function OrdersPanel({ standing, excepted, door }: { standing: StandingOrders; excepted: readonly SeatRow[]; door: DoorMode }) {
  const { t } = useTranslation()
  const [looked, setLooked] = useState<{ order: Order; to: Audience } | null>(null)
  return (
    <>
      <table className="w-full text-[0.875rem]">
        <thead>
          <tr className="text-left text-[0.812rem] text-ink2">
            <th className="py-1 pr-2 font-medium">{t('orders.who')}</th>
            {audiences.map((audience) => (
              <th key={audience} className="px-2 py-1 text-center font-medium">
                {t(`orders.audience.${audience}`)}
              </th>
            ))}
            <th className="py-1 pl-2 font-medium">{t('orders.exceptionsHead')}</th>
          </tr>
        </thead>
        <tbody>
          {orders.map((order) => (
            <tr key={order} className="border-t border-line">
              <th scope="row" className="py-1 pr-2 text-left font-semibold">
                {t(`orders.name.${order}`)}
              </th>
              {audiences.map((to) => (
                <td key={to} className="px-2 py-1 text-center">
                  <label className="grid min-h-6 place-items-center" onMouseEnter={() => setLooked({ order, to })}>
                    <input
                      type="radio"
                      name={`order-${order}`}
                      aria-label={`${t(`orders.name.${order}`)}: ${t(`orders.audience.${to}`)}`}
                      className="size-4.5 accent-felt"
                      checked={standing[order] === to}
                      onFocus={() => setLooked({ order, to })}
                      onChange={() => void wish({ do: 'setOrder', order, to })}
                    />
                  </label>
                </td>
              ))}
              <td className="py-1 pl-2 text-[0.812rem]">
                <ExceptionsOf order={order} excepted={excepted} />
                <RulesOfGroups order={order} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Foreseen looked={looked} standing={standing} />
      <GroupRules />
      <PresetSection orders={standing} door={door} />
    </>
  )
}

/** What choosing the cell under the hand would do. */
function Foreseen({ looked, standing }: { looked: { order: Order; to: Audience } | null; standing: StandingOrders }) {
  const { t } = useTranslation()
  const shiftsOf = useShifts()
  const [row] = useForesight(looked ? [{ do: 'setOrder', order: looked.order, to: looked.to }] : [])
  const isNow = looked !== null && standing[looked.order] === looked.to
  const shifts = shiftsOf(row ?? null)
  return (
    <p role="status" className="min-h-11 border-t border-line pt-2 text-[0.844rem]">
      {looked === null ? (
        <span className="text-ink2">{t('orders.lookFirst')}</span>
      ) : (
        <>
          <b className="font-semibold">{t(`orders.${looked.order}Hint.${looked.to}`)}</b>{' '}
          {isNow ? t('orders.isNow') : row ? (shifts.length > 0 ? shifts.join(' ') : t('foresight.nobody')) : ''}
        </>
      )}
    </p>
  )
}

function ExceptionsOf({ order, excepted }: { order: Order; excepted: readonly SeatRow[] }) {
  const { t } = useTranslation()
  const rules = useRules()
  if (!exceptable.includes(order)) return <span className="text-ink2">{t('orders.noExceptions')}</span>
  const given = excepted.filter((seat) => seat.note!.given.includes(order))
  const taken = excepted.filter((seat) => seat.note!.taken.includes(order))
  if (given.length + taken.length === 0)
    return rules.some((rule) => rule.order === order) ? null : <span className="text-ink2">{t('orders.none')}</span>
  const line = (seats: readonly SeatRow[], key: string) =>
    seats.length > 0 && (
      <span className="block">
        {t(key, {
          names: namesOf(
            seats.slice(0, 3).map((seat) => seat.name),
            seats.length,
          ),
        })}
      </span>
    )
  return (
    <span className="flex items-center gap-2">
      <span>
        {line(given, 'orders.may')}
        {line(taken, 'orders.mayNot')}
      </span>
      <Button
        small
        look="text"
        onClick={() => void wish({ do: 'except', seats: [...given, ...taken].map((seat) => seat.id), order, may: null })}
      >
        {t('orders.end')}
      </Button>
    </span>
  )
}

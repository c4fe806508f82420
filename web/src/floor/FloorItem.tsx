import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { FloorOrder, FloorRule } from '../contract.generated'
import { wish } from '../live/connection'
import type { Sitting } from '../live/store'
import { RibbonItem } from '../sittings/RibbonItem'
import { Choice } from '../ui/Choice'
import { Field, Tick } from '../ui/Field'

/** How the floor is given: in which order, for how long. */
export function FloorItem({ sitting }: { sitting: Sitting }) {
  const { t } = useTranslation()
  const floor = sitting.floor.rule
  if (!floor) return null
  const order = floor.order === 'fair' || floor.seconds === null ? [t(`floor.order.${floor.order}`)] : []
  const length = floor.seconds === null ? [] : [t('floor.minutes', { count: floor.seconds / 60 })]
  return (
    <RibbonItem label={t('floor.title')} value={[...order, ...length].join(', ')} title={t('floor.title')}>
      <FloorForm key={floor.seconds} floor={floor} />
    </RibbonItem>
  )
}

/** Ten seconds, in minutes. */
const shortest = 1 / 6

const orders: readonly FloorOrder[] = ['byHand', 'fair']

function FloorForm({ floor }: { floor: FloorRule }) {
  const { t } = useTranslation()
  const [minutes, setMinutes] = useState(floor.seconds === null ? '' : String(floor.seconds / 60))
  const set = (change: Partial<FloorRule>) => void wish({ do: 'setFloor', to: { ...floor, ...change } })
  const keep = () => {
    const seconds = minutes === '' ? null : Math.round(Math.min(60, Math.max(shortest, Number(minutes))) * 60)
    if (seconds !== floor.seconds) set({ seconds })
  }
  return (
    <div className="flex flex-col gap-3">
      <Choice<FloorOrder>
        label={t('floor.orderTitle')}
        value={floor.order}
        options={orders.map((order) => ({
          value: order,
          label: t(`floor.order.${order}`),
          hint: t(`floor.orderHint.${order}`),
        }))}
        onChange={(order) => set({ order })}
      />
      <Field
        label={t('floor.turnMinutes')}
        type="number"
        min={0}
        max={60}
        step="any"
        placeholder={t('floor.noLimit')}
        value={minutes}
        onChange={(e) => setMinutes(e.target.value)}
        onBlur={keep}
        onKeyDown={(e) => e.key === 'Enter' && keep()}
      />
      <Tick
        label={t('floor.endsItself')}
        checked={floor.endsItself}
        disabled={floor.seconds === null}
        onChange={(e) => set({ endsItself: e.target.checked })}
      />
    </div>
  )
}

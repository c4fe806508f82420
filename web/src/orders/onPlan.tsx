import { useMutation, useQueryClient } from '@tanstack/react-query'
import { ChevronDown } from 'lucide-react'
import { Collapsible } from 'radix-ui'
import type { ReactNode } from 'react'
import { useTranslation } from 'react-i18next'
import { presets } from '../api/client'
import type { Plan, PresetRow } from '../contract.generated'
import type { OfPlan, PlanTopic } from '../topics/planSlots'
import { Button } from '../ui/Button'
import { Failure } from '../ui/Failure'
import { DoorChoice, OrderChoice } from './OrderChoice'
import { orders as all, usualOrders } from './orders'
import { PresetChoice, PresetKeeping, useChosenPreset } from './PresetSection'

function OrdersOfPlan({ plan, onChange }: OfPlan) {
  const { t } = useTranslation()
  return (
    <>
      <h2 className="font-serif text-[1.188rem] font-semibold">{t('plan.orders')}</h2>
      <div className="border-b border-line">
        <Folded title={t('door.title')} value={t(`door.${plan.door}`)}>
          <DoorChoice
            value={plan.door}
            byName={plan.doorByName}
            onChange={(door, doorByName) => onChange({ door, doorByName })}
          />
        </Folded>
        {all.map((order) => (
          <Folded key={order} title={t(`orders.name.${order}`)} value={t(`orders.${order}.${plan.orders[order]}`)}>
            <OrderChoice
              order={order}
              value={plan.orders[order]}
              onChange={(to) => onChange({ orders: { ...plan.orders, [order]: to } })}
            />
          </Folded>
        ))}
      </div>
      <Presets plan={plan} onTake={(preset) => onChange({ door: preset.door, orders: preset.orders })} />
    </>
  )
}

/** What is set, in a line; opens onto what it may be. */
function Folded({ title, value, children }: { title: string; value: string; children: ReactNode }) {
  return (
    <Collapsible.Root className="border-t border-line">
      <Collapsible.Trigger className="group flex min-h-10 w-full items-center gap-3 text-left text-[0.906rem] hover:bg-felt-soft">
        <span className="flex-1 font-semibold">{title}</span>
        <span>{value}</span>
        <ChevronDown aria-hidden size={16} className="text-ink2 group-data-[state=open]:rotate-180" />
      </Collapsible.Trigger>
      <Collapsible.Content className="flex flex-col gap-2 pb-3">{children}</Collapsible.Content>
    </Collapsible.Root>
  )
}

function Presets({ plan, onTake }: { plan: Plan; onTake: (preset: PresetRow) => void }) {
  const { t } = useTranslation()
  const { preset: taken, choose } = useChosenPreset()
  const queries = useQueryClient()
  const remove = useMutation({
    mutationFn: presets.remove,
    onSettled: () => queries.invalidateQueries({ queryKey: ['presets'] }),
  })
  return (
    <div className="flex flex-col gap-2">
      <PresetChoice
        chosen={taken}
        onChoose={(preset) => {
          choose(preset?.id ?? null)
          if (preset) onTake(preset)
        }}
      />
      {taken && (
        <Button small look="text" className="self-start" onClick={() => remove.mutate(taken.id)}>
          {t('plan.removePreset', { name: taken.name })}
        </Button>
      )}
      <Failure of={[remove.error]} />
      <PresetKeeping orders={plan.orders} door={plan.door} />
    </div>
  )
}

export const orders: PlanTopic = {
  blank: { door: 'listed', doorByName: false, orders: usualOrders },
  aside: { at: 10, Part: OrdersOfPlan },
}

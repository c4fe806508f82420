import { useTranslation } from 'react-i18next'
import type { Audience, DoorMode, Order } from '../contract.generated'
import { Choice } from '../ui/Choice'

export type ShownOrder = Extract<Order, 'speak' | 'showCamera' | 'seePeople'>
export const shownOrders: readonly ShownOrder[] = ['speak', 'showCamera', 'seePeople']
const audiences: readonly Audience[] = ['everyone', 'presenters', 'bench']

export const orderLabel = { speak: 'ribbon.microphones', showCamera: 'ribbon.cameras', seePeople: 'ribbon.list' } as const

/** Who may do one thing; the same in the plan and live. */
export function OrderChoice({
  order,
  value,
  onChange,
}: {
  order: ShownOrder
  value: Audience
  onChange: (to: Audience) => void
}) {
  const { t } = useTranslation()
  return (
    <Choice<Audience>
      label={t(orderLabel[order])}
      value={value}
      options={audiences.map((audience) => ({
        value: audience,
        label: t(`orders.${order}.${audience}`),
        hint: t(`orders.${order}Hint.${audience}`),
      }))}
      onChange={onChange}
    />
  )
}

/** How people come in; the same in the plan and live. */
export function DoorChoice({ value, onChange }: { value: DoorMode | undefined; onChange: (mode: DoorMode) => void }) {
  const { t } = useTranslation()
  const modes: readonly DoorMode[] = ['open', 'listed', 'attended']
  return (
    <Choice<DoorMode>
      label={t('door.title')}
      value={value}
      options={modes.map((mode) => ({ value: mode, label: t(`door.${mode}`), hint: t(`door.${mode}Hint`) }))}
      onChange={onChange}
    />
  )
}

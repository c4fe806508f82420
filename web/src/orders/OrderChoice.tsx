import { useTranslation } from 'react-i18next'
import type { Audience, DoorMode, ForesightRow, Order } from '../contract.generated'
import { Choice } from '../ui/Choice'
import { audiences } from './orders'
import { useShifts } from './useForesight'

interface Props {
  order: Order
  value: Audience
  onChange: (to: Audience) => void
  /** For each audience what choosing it would do; where a sitting runs. */
  foreseen?: readonly (ForesightRow | null)[]
}

/** Who may do one thing; the same in the plan and live. */
export function OrderChoice({ order, value, onChange, foreseen }: Props) {
  const { t } = useTranslation()
  const shiftsOf = useShifts()
  return (
    <Choice<Audience>
      label={t(`orders.name.${order}`)}
      value={value}
      options={audiences.map((audience, at) => ({
        value: audience,
        label: t(`orders.${order}.${audience}`),
        hint: [t(`orders.${order}Hint.${audience}`), ...(audience === value ? [] : shiftsOf(foreseen?.[at] ?? null))].join(' '),
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

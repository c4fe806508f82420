import { useTranslation } from 'react-i18next'
import type { Audience, DoorMode, ForesightRow, Order } from '../contract.generated'
import { Choice } from '../ui/Choice'
import { Tick } from '../ui/Field'
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

interface DoorProps {
  value: DoorMode | undefined
  byName: boolean
  onChange: (mode: DoorMode, byName: boolean) => void
}

/** How people come in; the same in the plan and live. */
export function DoorChoice({ value, byName, onChange }: DoorProps) {
  const { t } = useTranslation()
  const modes: readonly DoorMode[] = ['open', 'listed', 'attended']
  const names = (
    <>
      <Tick label={t('door.byName')} checked={byName} onChange={(e) => onChange('listed', e.target.checked)} />
      <p className="text-[0.812rem] text-ink2">{t('door.byNameHint')}</p>
    </>
  )
  return (
    <Choice<DoorMode>
      label={t('door.title')}
      value={value}
      options={modes.map((mode) => ({
        value: mode,
        label: t(`door.${mode}`),
        hint: t(`door.${mode}Hint`),
        more: mode === 'listed' && value === 'listed' ? names : undefined,
      }))}
      onChange={(mode) => onChange(mode, byName && mode === 'listed')}
    />
  )
}

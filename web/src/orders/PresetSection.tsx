import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import { presets } from '../api/client'
import type { DoorMode, StandingOrders, PresetRow, SeatCommand } from '../contract.generated'
import { wish } from '../live/connection'
import { Button } from '../ui/Button'
import { Field, Select } from '../ui/Field'
import { useForesight, useShifts } from './useForesight'

/** The orders that this account keeps under names; none for a guest on the bench. */
export const usePresets = () => useQuery({ queryKey: ['presets'], queryFn: presets.list, retry: false, staleTime: 60_000 })

/** The one chosen of the kept orders, as they stand now: none once it was removed on another page. */
export function useChosenPreset() {
  const [id, choose] = useState<number | null>(null)
  const list = usePresets().data
  return { preset: list?.find((one) => one.id === id) ?? null, choose }
}

/** One of the kept orders. */
export function PresetChoice({ chosen, onChoose }: { chosen: PresetRow | null; onChoose: (preset: PresetRow | null) => void }) {
  const { t } = useTranslation()
  const list = usePresets().data ?? []
  return (
    <Select
      label={t('plan.takePreset')}
      value={chosen?.id ?? ''}
      onChange={(e) => onChoose(list.find((one) => String(one.id) === e.target.value) ?? null)}
    >
      <option value="">{t(list.length === 0 ? 'orders.noPresets' : 'plan.choosePreset')}</option>
      {list.map((one) => (
        <option key={one.id} value={one.id}>
          {one.name}
        </option>
      ))}
    </Select>
  )
}

/** Keeps orders under a name. It may stand within another form. */
export function PresetKeeping({ orders, door }: { orders: StandingOrders; door: DoorMode }) {
  const { t } = useTranslation()
  const queries = useQueryClient()
  const [name, setName] = useState('')
  const keep = useMutation({
    mutationFn: () => presets.keep({ id: 0, name, door, orders }),
    onSuccess: () => {
      setName('')
      return queries.invalidateQueries({ queryKey: ['presets'] })
    },
  })
  return (
    <div>
      <div className="flex items-end gap-2">
        <div className="flex-1">
          <Field
            label={t('plan.presetName')}
            value={name}
            onChange={(e) => setName(e.target.value)}
            onKeyDown={(e) => {
              if (e.key !== 'Enter') return
              e.preventDefault()
              if (name.trim() !== '') keep.mutate()
            }}
            error={keep.error?.message}
          />
        </div>
        <Button disabled={keep.isPending || name.trim() === ''} onClick={() => keep.mutate()}>
          {t('plan.keepPreset')}
        </Button>
      </div>
      <p role="status" className="text-[0.844rem] text-moss">
        {keep.data && t('orders.presetKept', { name: keep.data.name })}
      </p>
    </div>
  )
}

/** Takes kept orders in a sitting, with what that would do, and keeps those of now. */
export function PresetSection({ orders, door }: { orders: StandingOrders; door: DoorMode }) {
  const { t } = useTranslation()
  const list = usePresets()
  const { preset, choose } = useChosenPreset()
  const shiftsOf = useShifts()
  const command: SeatCommand[] = preset ? [{ do: 'takePreset', name: preset.name, door: preset.door, orders: preset.orders }] : []
  const [row] = useForesight(command)
  if (!list.data) return null
  const shifts = shiftsOf(row ?? null)
  return (
    <div className="mt-1 grid gap-3 border-t border-line pt-3 sm:grid-cols-2">
      <div className="flex flex-col gap-2">
        <PresetChoice chosen={preset} onChoose={(one) => choose(one?.id ?? null)} />
        {preset && row && (
          <>
            <p className="text-[0.844rem]">
              {row.refusal ? t(`reason.${row.refusal.reason}`) : shifts.length > 0 ? shifts.join(' ') : t('foresight.nobody')}
            </p>
            <Button look="primary" className="self-start" disabled={row.refusal !== null} onClick={() => void wish(command[0]!)}>
              {t('orders.takePreset')}
            </Button>
          </>
        )}
      </div>
      <PresetKeeping orders={orders} door={door} />
    </div>
  )
}

import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import { presets } from '../api/client'
import type { DoorMode, OrderSheet, SeatCommand } from '../contract.generated'
import { wish } from '../live/connection'
import { tell } from '../live/store'
import { Button } from '../ui/Button'
import { Field, Select } from '../ui/Field'
import { useForesight, useShifts } from './useForesight'

/** The orders that this account keeps under names; none for a guest on the bench. */
export const usePresets = () => useQuery({ queryKey: ['presets'], queryFn: presets.list, retry: false, staleTime: 60_000 })

/** Takes orders that are kept under a name, and keeps those of now. */
export function PresetPart({ sheet, door }: { sheet: OrderSheet; door: DoorMode }) {
  const { t } = useTranslation()
  const queries = useQueryClient()
  const list = usePresets()
  const [chosen, setChosen] = useState('')
  const [name, setName] = useState('')
  const shiftsOf = useShifts()
  const preset = list.data?.find((one) => String(one.id) === chosen)
  const command: SeatCommand[] = preset ? [{ do: 'takePreset', name: preset.name, door: preset.door, orders: preset.orders }] : []
  const [row] = useForesight(command)
  if (!list.data) return null
  const keep = async () => {
    try {
      await presets.keep({ id: 0, name, door, orders: sheet })
      tell(t('orders.presetKept', { name }))
      setName('')
      await queries.invalidateQueries({ queryKey: ['presets'] })
    } catch (error) {
      tell((error as Error).message, 'refusal')
    }
  }
  return (
    <div className="mt-1 grid gap-3 border-t border-line pt-3 sm:grid-cols-2">
      <div className="flex flex-col gap-2">
        <Select label={t('plan.takePreset')} value={chosen} onChange={(e) => setChosen(e.target.value)}>
          <option value="">{list.data.length === 0 ? t('orders.noPresets') : t('plan.choosePreset')}</option>
          {list.data.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
        </Select>
        {preset && row && (
          <>
            <p className="text-[0.844rem]">
              {row.refusal
                ? t(`reason.${row.refusal.reason}`)
                : [t('foresight.touches', { count: row.touches }), ...shiftsOf(row)].join(' ')}
            </p>
            <Button look="primary" className="self-start" disabled={row.refusal !== null} onClick={() => void wish(command[0]!)}>
              {t('orders.takePreset')}
            </Button>
          </>
        )}
      </div>
      <form
        className="flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          void keep()
        }}
      >
        <div className="flex-1">
          <Field label={t('plan.presetName')} value={name} onChange={(e) => setName(e.target.value)} />
        </div>
        <Button type="submit" disabled={name.trim() === ''}>
          {t('plan.keepPreset')}
        </Button>
      </form>
    </div>
  )
}

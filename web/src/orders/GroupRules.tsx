import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { GroupRule, Order, SeatCommand } from '../contract.generated'
import { wish } from '../live/connection'
import { useLive } from '../live/store'
import { Button } from '../ui/Button'
import { Select } from '../ui/Field'
import { exceptable } from './orders'
import { useForesight, useShifts } from './useForesight'

const none: readonly GroupRule[] = []

/** What groups of the docket may or may not, whatever the orders say. */
export const useRules = () => useLive((state) => state.sitting?.groups.rules ?? none)

/** The groups that are excepted from one order, each with its end. */
export function RulesOfGroups({ order }: { order: Order }) {
  const { t } = useTranslation()
  const rules = useRules().filter((rule) => rule.order === order)
  return rules.map(({ group, may }) => (
    <span key={group} className="flex items-center gap-2">
      <span className="break-words">{t(may ? 'orders.groupMay' : 'orders.groupMayNot', { group })}</span>
      <Button small look="text" onClick={() => void wish({ do: 'exceptGroup', group, order, may: null })}>
        {t('orders.end')}
      </Button>
    </span>
  ))
}

/** Lets a group of the docket do something, or keeps it from that; says first whom it touches. */
export function GroupRules() {
  const { t } = useTranslation()
  const names = useLive((state) => state.sitting?.groups.names)
  const [chosen, choose] = useState('')
  const [order, setOrder] = useState<Order>('exhibit')
  const shiftsOf = useShifts()
  const group = names?.find((one) => one === chosen) ?? names?.[0]
  const wishes: readonly SeatCommand[] = group
    ? [true, false].map((may) => ({ do: 'exceptGroup' as const, group, order, may }))
    : []
  const foreseen = useForesight(wishes)
  if (!names || group === undefined) return null
  const says = foreseen.map((row) => (row?.refusal ? '' : shiftsOf(row ?? null).join(' ')))
  return (
    <section className="border-t border-line pt-2" aria-label={t('orders.groups')}>
      <h3 className="mb-1 text-[0.844rem] font-semibold">{t('orders.groups')}</h3>
      <div className="flex flex-wrap items-end gap-2">
        <Select label={t('orders.group')} value={group} onChange={(e) => choose(e.target.value)}>
          {names.map((name) => (
            <option key={name} value={name}>
              {name}
            </option>
          ))}
        </Select>
        <Select label={t('orders.groupWhat')} value={order} onChange={(e) => setOrder(e.target.value as Order)}>
          {exceptable.map((one) => (
            <option key={one} value={one}>
              {t(`capabilityOf.${one}`)}
            </option>
          ))}
        </Select>
        <Button small disabled={foreseen[0]?.refusal != null} onClick={() => void wish(wishes[0]!)}>
          {t('orders.letGroup')}
        </Button>
        <Button small disabled={foreseen[1]?.refusal != null} onClick={() => void wish(wishes[1]!)}>
          {t('orders.keepGroup')}
        </Button>
      </div>
      <p className="mt-1 text-[0.812rem] text-ink2">
        {says.some(Boolean) ? says.filter(Boolean).join(' ') : t('orders.groupNobody')} {t('orders.groupHint')}
      </p>
    </section>
  )
}

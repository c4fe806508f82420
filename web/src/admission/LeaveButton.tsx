import { clsx } from 'clsx'
import { useMemo, useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { MeRow } from '../contract.generated'
import { wish } from '../live/connection'
import { useLive } from '../live/store'
import { byRankAndName } from '../people/rank'
import { Button } from '../ui/Button'
import { Select } from '../ui/Field'
import { Panel } from '../ui/Panel'

const look = clsx(
  'shrink-0 border-l border-felt-line px-3.5 max-md:min-h-11 max-md:grow max-md:px-2.5',
  'text-[0.844rem] font-semibold whitespace-nowrap hover:bg-felt-line',
)

/** Goes out. The host chooses first who leads from then on. */
export function LeaveButton({ me }: { me: MeRow }) {
  const { t } = useTranslation()
  if (me.role !== 'host')
    return (
      <button className={look} onClick={() => void wish({ do: 'leave' })}>
        {t('ribbon.leaveNow')}
      </button>
    )
  return (
    <Panel title={t('leave.title')} align="end" trigger={<button className={look}>{t('ribbon.leave')}</button>}>
      <Successor me={me} />
    </Panel>
  )
}

function Successor({ me }: { me: MeRow }) {
  const { t } = useTranslation()
  const seats = useLive((state) => state.seats)
  const others = useMemo(
    () =>
      [...seats.values()].filter((seat) => seat.place === 'seated' && seat.connected && seat.id !== me.seat).sort(byRankAndName),
    [seats, me.seat],
  )
  const [chosen, setChosen] = useState<number | null>(null)
  const successor = others.find((seat) => seat.id === chosen) ?? others[0]
  if (!successor)
    return (
      <>
        <p className="mb-3 text-[0.906rem]">{t('leave.alone')}</p>
        <Button look="primary" onClick={() => void wish({ do: 'leave' })}>
          {t('leave.plain')}
        </Button>
      </>
    )
  return (
    <div className="flex flex-col gap-3">
      <p className="text-[0.906rem]">{t('leave.lead')}</p>
      <Select label={t('leave.choose')} value={successor.id} onChange={(e) => setChosen(Number(e.target.value))}>
        {others.map((seat) => (
          <option key={seat.id} value={seat.id}>
            {seat.name}, {t(`role.${seat.role}`)}
          </option>
        ))}
      </Select>
      <Button look="primary" className="whitespace-normal" onClick={() => void wish({ do: 'leave', successor: successor.id })}>
        {t('leave.confirm', { name: successor.name })}
      </Button>
    </div>
  )
}

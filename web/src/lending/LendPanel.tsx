import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import { exhibits } from '../api/client'
import type { ExhibitRow } from '../contract.generated'
import { currentSitting, wish } from '../live/connection'
import { isHere } from '../rooms/bays'
import { useLive } from '../live/store'
import { useMedia } from '../media/engine'
import { Button } from '../ui/Button'
import { CopyButton } from '../ui/CopyButton'
import { Failure } from '../ui/Failure'

/** Lets somebody drive one's own screen, by a small program that runs beside it. */
export function LendPanel({ exhibit }: { exhibit: ExhibitRow }) {
  const { t } = useTranslation()
  const isWhole = useMedia((state) => state.ownScreen?.getVideoTracks()[0]?.getSettings().displaySurface === 'monitor')
  const [open, setOpen] = useState(false)
  if (!exhibit.shown || exhibit.loan) return null
  if (!open && !exhibit.hasAgent)
    return (
      <p>
        <Button onClick={() => setOpen(true)}>{t('lending.open')}</Button>
      </p>
    )
  return (
    <section aria-label={t('lending.title')} className="flex flex-col gap-2 border-t border-line pt-2 text-[0.875rem]">
      <h3 className="font-serif text-[0.938rem] font-semibold">{t('lending.title')}</h3>
      {exhibit.hasAgent ? <Lend exhibit={exhibit} /> : isWhole ? <Code /> : <p>{t('lending.wholeOnly')}</p>}
    </section>
  )
}

function Code() {
  const { t } = useTranslation()
  const code = useMutation({ mutationFn: () => exhibits.agentCode(currentSitting()) })
  const line = code.data && `HoldCourt.Agent --server ${location.origin} --code ${code.data.code}`
  return (
    <>
      <p className="text-ink2">{t('lending.agentHint')}</p>
      <Failure of={[code.error]} />
      {line ? (
        <>
          <p className="border border-line bg-paper p-2 font-mono text-[0.781rem] break-all select-all">{line}</p>
          <span className="flex flex-wrap items-center gap-2">
            <CopyButton text={line} label={t('lending.copy')} />
            <span className="text-[0.812rem] text-ink2">{t('lending.codeLasts', { count: code.data.minutes })}</span>
          </span>
        </>
      ) : (
        <Button look="primary" disabled={code.isPending} onClick={() => code.mutate()}>
          {t('lending.getCode')}
        </Button>
      )}
    </>
  )
}

function Lend({ exhibit }: { exhibit: ExhibitRow }) {
  const { t } = useTranslation()
  const seats = useLive((state) => state.seats)
  const me = useLive((state) => state.me)
  const [to, setTo] = useState('')
  const people = [...seats.values()]
    .filter((seat) => isHere(seat, me) && seat.id !== exhibit.by)
    .sort((a, b) => a.name.localeCompare(b.name))
  return (
    <span className="flex flex-wrap items-center gap-2">
      <select
        aria-label={t('lending.to')}
        value={to}
        onChange={(event) => setTo(event.target.value)}
        className="min-h-9 max-w-48 rounded-sm border border-edge bg-raised px-1"
      >
        <option value="">{t('lending.choose')}</option>
        {people.map((seat) => (
          <option key={seat.id} value={seat.id}>
            {seat.name}
          </option>
        ))}
      </select>
      <Button look="primary" disabled={to === ''} onClick={() => void wish({ do: 'lendControls', to: Number(to) })}>
        {t('lending.lend')}
      </Button>
      <span className="text-[0.812rem] text-ink2">{t('lending.lendHint')}</span>
    </span>
  )
}

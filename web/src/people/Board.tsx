import { useEffect, useMemo, useRef, useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { SeatRow } from '../contract.generated'
import { Button } from '../ui/Button'
import { acts, raised } from './acts'
import { Bay } from './Bay'
import { BoardHead } from './BoardHead'
import { selectAll, setOrder, useSelection } from './selection'
import { useBoard } from './useBoard'

/** The people of the sitting, as strips in bays. */
export function Board({ onFindRef }: { onFindRef: (input: HTMLInputElement | null) => void }) {
  const { t } = useTranslation()
  const [find, setFind] = useState('')
  const [showGone, setShowGone] = useState(false)
  const scroller = useRef<HTMLDivElement>(null)
  const { all, lobby, floor, inside, gone } = useBoard(find)
  const selected = useSelection((state) => state.selected)
  const at = useSelection((state) => state.at)
  const order = useMemo(
    () => [...lobby, ...floor, ...inside, ...(showGone ? gone : [])].map((seat) => seat.id),
    [lobby, floor, inside, gone, showGone],
  )
  const chosen = useMemo(() => all.filter((seat) => selected.has(seat.id)), [all, selected])
  const focusable = at !== null && order.includes(at) ? at : order[0]
  useEffect(() => setOrder(order), [order])

  const strips = (seats: readonly SeatRow[], label: string, above: number) => (
    <Bay label={label} seats={seats} selected={selected} focusable={focusable} stripsAbove={above} scroller={scroller} />
  )

  return (
    <section aria-label={t('board.label')} className="flex min-h-0 flex-1 flex-col">
      <BoardHead people={all} chosen={chosen} />
      <div ref={scroller} className="relative min-h-0 flex-1 overflow-y-auto pb-2">
        <BayHead title={t('board.lobby')} count={lobby.length}>
          {lobby.length > 1 && (
            <Button small look="text" onClick={() => selectAll(lobby.map((seat) => seat.id))}>
              {t('board.selectAll')}
            </Button>
          )}
        </BayHead>
        {lobby.length > 0 ? strips(lobby, t('board.lobby'), 0) : <Empty>{t('board.lobbyEmpty')}</Empty>}
        {floor.length > 0 && (
          <>
            <BayHead title={t('floor.title')} count={floor.length}>
              {raised(floor).length > 1 && (
                <Button small look="text" onClick={() => void acts.lowerHands(floor)}>
                  {t('floor.lowerAll')}
                </Button>
              )}
            </BayHead>
            {strips(floor, t('floor.title'), lobby.length)}
          </>
        )}
        <BayHead title={t('board.seated')} count={inside.length}>
          <input
            ref={onFindRef}
            type="search"
            aria-label={t('board.find')}
            placeholder={t('board.find')}
            value={find}
            onChange={(e) => setFind(e.target.value)}
            className="h-7 w-36 border border-line bg-paper px-2 text-[13px]"
          />
        </BayHead>
        {inside.length > 0 ? (
          strips(inside, t('board.seated'), lobby.length + floor.length)
        ) : (
          <Empty>{find ? t('board.noneFound') : t('board.seatedEmpty')}</Empty>
        )}
        {gone.length > 0 && (
          <>
            <BayHead title={t('board.gone')} count={gone.length} expanded={showGone} onToggle={() => setShowGone(!showGone)} />
            {showGone && strips(gone, t('board.gone'), lobby.length + floor.length + inside.length)}
          </>
        )}
      </div>
    </section>
  )
}

interface BayHeadProps {
  title: string
  count: number
  expanded?: boolean
  onToggle?: () => void
  children?: React.ReactNode
}

function BayHead({ title, count, expanded, onToggle, children }: BayHeadProps) {
  const label = (
    <>
      {title} <span className="ml-0.5 font-sans text-[13px] text-ink2">{count}</span>
    </>
  )
  return (
    <div className="flex min-h-9 items-center justify-between gap-3 px-3.5 pt-1.5 pb-0.5">
      <h2 className="font-serif text-[14.5px] font-semibold">
        {onToggle ? (
          <button
            aria-expanded={expanded}
            onClick={onToggle}
            className="underline decoration-line decoration-2 underline-offset-4"
          >
            {label}
          </button>
        ) : (
          label
        )}
      </h2>
      {children}
    </div>
  )
}

const Empty = ({ children }: { children: string }) => <p className="px-3.5 pb-1 text-[13.5px] text-ink2">{children}</p>

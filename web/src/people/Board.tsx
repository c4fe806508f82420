import { useEffect, useMemo, useRef, useState, type FocusEvent, type KeyboardEvent } from 'react'
import { useTranslation } from 'react-i18next'
import type { SeatRow } from '../contract.generated'
import { questions } from '../live/connection'
import { useLive } from '../live/store'
import { Button } from '../ui/Button'
import { acts, raised, waiting } from './acts'
import { Bay } from './Bay'
import { baysOf, foldAll, useIsFolded } from '../rooms/bays'
import { DropBay } from '../rooms/DropBay'
import { RoomBayHead } from '../rooms/RoomBayHead'
import { BoardHead } from './BoardHead'
import { addOlder } from './gone'
import { focusStrip, selectAll, setOrder, useSelection } from './selection'
import { showable, useBoard, type Shown } from './useBoard'

/** The people of the sitting, as strips in bays. */
export function Board() {
  const { t } = useTranslation()
  const [find, setFind] = useState('')
  const [kind, setKind] = useState<Shown>('all')
  const [showGone, setShowGone] = useState(false)
  const scroller = useRef<HTMLDivElement>(null)
  const [room, setRoom] = useState<number | null>(null)
  const { all, lobby, floor, bays, hasRooms, inside, gone } = useBoard(find, kind, room)
  const rooms = useLive((state) => state.sitting?.rooms)
  const isFolded = useIsFolded(bays.length)
  const finds = find !== '' || kind !== 'all'
  const waits = waiting(all).length
  const goneInAll = useLive((state) => state.sitting?.counts.gone ?? 0)
  const selected = useSelection((state) => state.selected)
  const at = useSelection((state) => state.at)
  const unfolded = useMemo(
    () => bays.filter((bay) => finds || room !== null || !isFolded(bay.room)),
    [bays, finds, room, isFolded],
  )
  // A room that is closed is shown no more.
  if (room !== null && !bays.some((bay) => bay.room === room)) setRoom(null)
  const order = useMemo(
    () =>
      [...lobby, ...floor, ...unfolded.flatMap((bay) => bay.seats), ...inside, ...(showGone ? gone : [])].map((seat) => seat.id),
    [lobby, floor, unfolded, inside, gone, showGone],
  )
  const chosen = useMemo(() => all.filter((seat) => selected.has(seat.id)), [all, selected])
  const focusable = at !== null && order.includes(at) ? at : order[0]
  useEffect(() => setOrder(order), [order])

  const follow = useFocusThatFollows(order)

  /** Enter and Down lead to the first who was found; Escape takes the words out, and then leaves. */
  const keyInFind = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === 'Escape' && find === '') event.currentTarget.blur()
    else if (event.key === 'Escape') setFind('')
    else if ((event.key === 'Enter' || event.key === 'ArrowDown') && order[0] !== undefined) {
      event.preventDefault()
      useSelection.setState({ at: order[0] })
      focusStrip(order[0])
    }
  }

  const strips = (seats: readonly SeatRow[], bay: string, label: string, above: number) => (
    <Bay
      bay={bay}
      label={label}
      seats={seats}
      selected={selected}
      focusable={focusable}
      stripsAbove={above}
      scroller={scroller}
    />
  )

  return (
    <section
      aria-label={t('board.label')}
      id="board"
      data-board
      tabIndex={-1}
      className="flex min-h-0 flex-1 flex-col outline-none max-md:h-[max(26rem,80dvh)] max-md:flex-none"
    >
      <BoardHead people={all} chosen={chosen} />
      <div ref={scroller} {...follow} className="relative min-h-0 flex-1 overflow-y-auto pb-2">
        <BayHead title={t('board.lobby')} count={lobby.length}>
          {lobby.length > 1 && (
            <Button small look="text" onClick={() => selectAll(lobby.map((seat) => seat.id))}>
              {t('board.selectAll')}
            </Button>
          )}
        </BayHead>
        {lobby.length > 0 ? (
          strips(lobby, 'lobby', t('board.lobby'), 0)
        ) : (
          <Empty>{waits > 0 ? t('board.lobbyHidden', { count: waits }) : t('board.lobbyEmpty')}</Empty>
        )}
        {floor.length > 0 && (
          <>
            <BayHead title={t('floor.title')} count={floor.length}>
              {raised(floor).length > 1 && (
                <Button small look="text" onClick={() => void acts.lowerHands(floor)}>
                  {t('floor.lowerAll')}
                </Button>
              )}
            </BayHead>
            {strips(floor, 'floor', t('floor.title'), lobby.length)}
          </>
        )}
        {rooms && hasRooms && (
          <BayHead title={t('rooms.title')} count={bays.length}>
            <span className="flex gap-1">
              <select
                aria-label={t('rooms.show')}
                value={room ?? ''}
                onChange={(e) => setRoom(e.target.value === '' ? null : Number(e.target.value))}
                className={`h-7 w-26 border px-1 text-[0.812rem] ${room === null ? 'border-line bg-paper' : 'border-brass bg-brass-soft'}`}
              >
                <option value="">{t('rooms.all')}</option>
                {baysOf(t, rooms, []).map((bay) => (
                  <option key={bay.room} value={bay.room}>
                    {bay.name}
                  </option>
                ))}
              </select>
              <Button small look="text" onClick={() => foldAll(bays, unfolded.length > 0)}>
                {t(unfolded.length > 0 ? 'rooms.fold' : 'rooms.unfold')}
              </Button>
            </span>
          </BayHead>
        )}
        {rooms &&
          bays.map((bay) => {
            const folded = !unfolded.includes(bay)
            const above =
              lobby.length + floor.length + unfolded.slice(0, unfolded.indexOf(bay)).flatMap((one) => one.seats).length
            return (
              <DropBay key={bay.room} room={bay.room}>
                <RoomBayHead bay={bay} rooms={rooms} folded={folded} />
                {!folded &&
                  (bay.seats.length > 0 ? (
                    strips(bay.seats, `room${bay.room}`, bay.name, above)
                  ) : (
                    <Empty>{t('rooms.nobodyIn')}</Empty>
                  ))}
              </DropBay>
            )
          })}
        <BayHead title={t(hasRooms ? 'rooms.hall' : 'board.seated')} count={inside.length}>
          <span className="flex gap-1">
            <select
              aria-label={t('board.show')}
              value={kind}
              onChange={(e) => setKind(e.target.value as Shown)}
              className={`h-7 w-26 border px-1 text-[0.812rem] ${kind === 'all' ? 'border-line bg-paper' : 'border-brass bg-brass-soft'}`}
            >
              {showable.map((one) => (
                <option key={one} value={one}>
                  {t(`board.shown.${one}`)}
                </option>
              ))}
            </select>
            <input
              data-find
              type="search"
              aria-label={t('board.find')}
              placeholder={t('board.find')}
              value={find}
              onChange={(e) => setFind(e.target.value)}
              onKeyDown={keyInFind}
              className="h-7 w-30 border border-line bg-paper px-2 text-[0.812rem]"
            />
          </span>
        </BayHead>
        {inside.length > 0 ? (
          <DropBay room={hasRooms ? null : undefined}>
            {strips(inside, 'seated', t(hasRooms ? 'rooms.hall' : 'board.seated'), order.length - inside.length)}
          </DropBay>
        ) : (
          <Empty>{find || kind !== 'all' ? t('board.noneFound') : t('board.seatedEmpty')}</Empty>
        )}
        {gone.length > 0 && (
          <>
            <BayHead
              title={t('board.gone')}
              count={find || kind !== 'all' ? gone.length : goneInAll}
              expanded={showGone}
              onToggle={() => setShowGone(!showGone)}
            />
            {showGone && strips(gone, 'gone', t('board.gone'), lobby.length + floor.length + inside.length)}
            {showGone && <Older held={all.filter((seat) => seat.place === 'gone')} inAll={goneInAll} />}
          </>
        )}
      </div>
    </section>
  )
}

/** Whoever acts on a strip that goes to another bay, or from the board, goes on from it, or from the strip that stands first. */
function useFocusThatFollows(order: readonly number[]) {
  const held = useRef<number | null>(null)
  useEffect(() => {
    if (held.current === null || document.activeElement !== document.body) return
    const next = order.includes(held.current) ? held.current : order[0]
    if (next !== undefined) focusStrip(next)
  })
  return {
    onFocus: ({ target }: FocusEvent<HTMLElement>) => {
      const strip = target.closest('li')?.querySelector<HTMLElement>('[data-strip]')?.dataset['strip']
      held.current = strip === undefined ? null : Number(strip)
    },
    onBlur: ({ target }: FocusEvent<HTMLElement>) => {
      // What is taken away loses the focus, too; only what is still there has let it go.
      if (target.isConnected) held.current = null
    },
  }
}

/** Of those who have gone the newest are at hand; the others come when they are asked for. */
function Older({ held, inAll }: { held: readonly SeatRow[]; inAll: number }) {
  const { t } = useTranslation()
  const [asking, setAsking] = useState(false)
  const more = inAll - held.length
  const oldest = held.toSorted((a, b) => a.since - b.since || a.id - b.id)[0]
  if (more <= 0 || !oldest) return null
  const ask = async () => {
    setAsking(true)
    const page = await questions.gone(oldest.id)
    if (page) addOlder(page.rows)
    setAsking(false)
  }
  return (
    <div className="px-3.5 pb-1">
      <Button small look="text" disabled={asking} onClick={() => void ask()}>
        {t('board.older', { count: more })}
      </Button>
    </div>
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
      {title} <span className="ml-0.5 font-sans text-[0.812rem] text-ink2">{count}</span>
    </>
  )
  return (
    <div className="flex min-h-9 flex-wrap items-center justify-between gap-x-3 gap-y-1 px-3.5 pt-1.5 pb-0.5">
      <h2 className="font-serif text-[0.906rem] font-semibold">
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

const Empty = ({ children }: { children: string }) => <p className="px-3.5 pb-1 text-[0.844rem] text-ink2">{children}</p>

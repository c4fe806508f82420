import type { KeyboardEvent, MouseEvent } from 'react'
import { create } from 'zustand'
import type { SeatRow } from '../contract.generated'
import { useLive } from '../live/store'

export type ActPanel = 'role' | 'remove' | 'decline' | 'admitAs' | 'orders' | 'move'

interface Selection {
  selected: ReadonlySet<number>
  /** The strip that keys move from. */
  at: number | null
  /** Where a Shift selection starts. */
  anchor: number | null
  panel: ActPanel | null
  /** The person whose strip is open. */
  opened: number | null
}

const none: Selection = { selected: new Set(), at: null, anchor: null, panel: null, opened: null }

export const useSelection = create<Selection>(() => none)

export const clearSelection = () => useSelection.setState({ selected: new Set(), anchor: null, panel: null })

/** The strips as they stand on the board, from top to foot. */
let order: readonly number[] = []
export const setOrder = (shown: readonly number[]) => {
  order = shown
}

/** A click selects one; with Ctrl one more or less; with Shift all from the last to here. */
export function clickStrip(event: MouseEvent, id: number) {
  const { selected, anchor } = useSelection.getState()
  if (event.shiftKey && anchor !== null && order.includes(anchor)) {
    const [from, to] = [order.indexOf(anchor), order.indexOf(id)].sort((a, b) => a - b)
    return useSelection.setState({ selected: new Set(order.slice(from, to! + 1)), at: id })
  }
  if (event.ctrlKey || event.metaKey) return toggle(id)
  const only = selected.size === 1 && selected.has(id)
  useSelection.setState({ selected: only ? new Set() : new Set([id]), anchor: id, at: id })
}

/** As many strips as Page Up and Page Down go by. */
const page = 10

/** Where a key leads from a place on the board; undefined for keys that lead nowhere. */
function aim(key: string, from: number): number | undefined {
  const to = {
    ArrowDown: from + 1,
    ArrowUp: from - 1,
    PageDown: from + page,
    PageUp: from - page,
    Home: 0,
    End: order.length - 1,
  }[key]
  return to === undefined ? undefined : Math.min(Math.max(to, 0), order.length - 1)
}

/** Arrows, pages and ends go along the strips, with Shift they select them all; Space selects, Enter opens. */
export function keyOnStrip(event: KeyboardEvent, id: number) {
  const from = order.indexOf(id)
  const to = aim(event.key, from)
  if (event.key === ' ') toggle(id)
  else if (event.key === 'Enter') useSelection.setState({ opened: id, at: id })
  else if (to !== undefined && from >= 0) {
    const next = order[to]!
    const passed = order.slice(Math.min(from, to), Math.max(from, to) + 1)
    useSelection.setState(({ selected }) => ({
      at: next,
      selected: event.shiftKey ? new Set([...selected, ...passed]) : selected,
    }))
    focusStrip(next)
  } else return
  event.preventDefault()
}

/** A strip that is out of sight is drawn first. */
export function focusStrip(id: number) {
  const find = () => document.querySelector<HTMLElement>(`[data-strip="${id}"]`)
  const strip = find()
  if (strip) strip.focus()
  else requestAnimationFrame(() => find()?.focus())
}

/** Everybody whom the board shows. */
export const selectShown = () => selectAll(order)

export const selectAll = (ids: readonly number[]) =>
  useSelection.setState({ selected: new Set(ids), anchor: ids[0] ?? null, at: ids[0] ?? null })

export function toggle(id: number) {
  const selected = new Set(useSelection.getState().selected)
  if (!selected.delete(id)) selected.add(id)
  useSelection.setState({ selected, anchor: id, at: id })
}

/** A board that has just been opened draws its strips within so many frames. */
const framesToDraw = 20

/** Leads to the first strip of a bay; where nobody is in it, to the board. */
export function goToBay(bay: string, frames = framesToDraw) {
  const strip = document.querySelector<HTMLElement>(`ul[data-bay="${bay}"] [data-strip]`)
  if (strip?.checkVisibility()) {
    useSelection.setState({ at: Number(strip.dataset['strip']) })
    strip.focus()
  } else if (frames > 0) requestAnimationFrame(() => goToBay(bay, frames - 1))
  else document.querySelector<HTMLElement>('[data-board]')?.focus()
}

/** Those selected; when none is, the strip where one stands, unless only a selection counts. */
export function target(orStrip = true): SeatRow[] {
  const { selected, at } = useSelection.getState()
  const { seats, me } = useLive.getState()
  if (!orStrip && selected.size === 0) return []
  if (selected.size === 0 && at !== null) useSelection.setState({ selected: new Set([at]) })
  const ids = selected.size > 0 ? [...selected] : at !== null ? [at] : []
  return ids.map((id) => seats.get(id)).filter((seat): seat is SeatRow => seat !== undefined && seat.id !== me?.seat)
}

/** Opens what needs one more word, for those whom it would touch. */
export const askFor = (panel: ActPanel) => () => {
  if (target().length > 0) useSelection.setState({ panel })
}

import { create } from 'zustand'
import { keepLetGo } from '../people/gone'
import type {
  AlteredRows,
  LedgerRow,
  MeRow,
  Refusal,
  SeatRow,
  SittingRow,
  ViewChange,
  Viewer,
  WholeView,
} from '../contract.generated'

export type Line = 'connecting' | 'up' | 'lost' | 'superseded' | 'noSeat'

/** The session's state, with every facet of it. */
export type Sitting = Required<SittingRow>

export interface LiveState {
  line: Line
  v: number
  viewer: Viewer
  me: MeRow | null
  sitting: Sitting | null
  seats: ReadonlyMap<number, SeatRow>
  ledger: readonly LedgerRow[]
}

const empty: LiveState = {
  line: 'connecting',
  v: 0,
  viewer: 'outside',
  me: null,
  sitting: null,
  seats: new Map(),
  ledger: [],
}

/** The one copy of the server's state. Only what comes from the server changes it. */
export const useLive = create<LiveState>(() => empty)

type View = Pick<LiveState, 'v' | 'viewer' | 'me' | 'sitting' | 'seats' | 'ledger'>

/** Changes that came close together, held back for a moment so that the page is drawn once for all of them. */
let ahead: View | null = null
let shownAt = -Infinity
const leastBetween = 60

export const resetLive = () => {
  ahead = null
  shownAt = -Infinity
  turned.clear()
  clearTimeout(anew)
  useLive.setState(empty, true)
}

/** The newest state that is known, whether drawn already or not. */
const newest = (): View => ahead ?? useLive.getState()

function show() {
  if (!ahead) return
  shownAt = performance.now()
  useLive.setState(ahead)
  ahead = null
}

/** The first change after a pause is drawn at once; those that follow closely, together. */
function showSoon(state: View) {
  const waits = ahead !== null
  ahead = state
  if (waits) return
  const since = performance.now() - shownAt
  if (since >= leastBetween) show()
  else setTimeout(show, leastBetween - since)
}

/** Takes a whole view, unless a newer one of the same kind is held already. */
export function takeWhole(view: WholeView, me: MeRow | null = newest().me) {
  const held = newest()
  if (view.viewer === held.viewer && view.v < held.v) return
  ahead = null
  useLive.setState({
    v: view.v,
    viewer: view.viewer,
    me,
    // A whole view has every facet.
    sitting: view.sitting as Sitting,
    seats: new Map(view.seats.map((row) => [row.id, row])),
    ledger: view.ledger,
  })
}

/** The longest ledger kept in the page; older entries are the server's to show. */
const ledgerDepth = 400

/** Applies a change. False when a version is missing between it and what is held. */
export function applyChange(change: ViewChange): boolean {
  const held = newest()
  if (change.v <= held.v) return true
  if (change.from > held.v) return false
  showSoon({
    v: change.v,
    viewer: held.viewer,
    me: held.me,
    sitting: change.set && held.sitting ? { ...held.sitting, ...change.set } : held.sitting,
    seats: change.put || change.altered || change.drop ? seatsAfter(held.seats, change) : held.seats,
    ledger: change.ledger ? [...held.ledger, ...change.ledger].slice(-ledgerDepth) : held.ledger,
  })
  return true
}

/** One's own row belongs to a version of the view, and is drawn with it. An older one than is held comes too late. */
export function takeMe(me: MeRow) {
  const held = newest()
  if (held.me && me.v < held.me.v) return
  showSoon({ ...held, me })
}

function seatsAfter(held: ReadonlyMap<number, SeatRow>, { drop = [], put = [], altered = [] }: ViewChange) {
  const seats = new Map(held)
  keepLetGo(drop.map((id) => held.get(id)).filter((row) => row !== undefined))
  for (const id of drop) seats.delete(id)
  for (const row of put) {
    noteMicrophone(seats.get(row.id), row)
    seats.set(row.id, row)
  }
  for (const { seats: alike, to } of altered)
    for (const id of alike) {
      const row = seats.get(id)
      if (row) seats.set(id, alter(row, to))
    }
  return seats
}

function alter(row: SeatRow, to: AlteredRows['to']): SeatRow {
  const note = row.note && to.note ? { ...row.note, ...to.note } : (to.note ?? row.note)
  const now = { ...row, ...to, note } as SeatRow
  noteMicrophone(row, now)
  return now
}

/** A hand that aims at a control cannot follow a change of its meaning any faster, in milliseconds. */
const handNeeds = 500
const turned = new Map<number, { was: SeatRow['microphone']; at: number }>()

function noteMicrophone(was: SeatRow | undefined, now: SeatRow) {
  if (!was || was.microphone === now.microphone) return
  const turn = { was: was.microphone, at: performance.now() }
  turned.set(now.id, turn)
  // No hand follows what is not painted yet; a page that nobody sees is not painted.
  if (typeof requestAnimationFrame === 'undefined' || document.hidden) return drawAnewSoon()
  turn.at = Infinity
  requestAnimationFrame(() =>
    setTimeout(() => {
      turn.at = performance.now()
      drawAnewSoon()
    }),
  )
}

let anew: ReturnType<typeof setTimeout> | undefined

/** What is drawn says what a hand's click means; once a click means something else, it is drawn anew. */
function drawAnewSoon() {
  clearTimeout(anew)
  anew = setTimeout(() => useLive.setState(({ seats }) => ({ seats: new Map(seats) })), handNeeds + 20)
}

/** When the hand did what is being handled just now; a busy page may come to it much later. */
let handAt: number | null = null
if (typeof window !== 'undefined')
  for (const kind of ['click', 'keydown'])
    window.addEventListener(
      kind,
      (event) => {
        handAt = event.timeStamp
        setTimeout(() => (handAt = null))
      },
      { capture: true, passive: true },
    )

/**
 * A microphone as the reader's hand still takes it to be: for a moment after it was switched by somebody else, as it was.
 * So a click meant as "mute" never becomes "ask to unmute".
 */
export function aimedMicrophone(row: SeatRow, at = handAt ?? performance.now()): SeatRow['microphone'] {
  const last = turned.get(row.id)
  return last && at - last.at < handNeeds ? last.was : row.microphone
}

export interface Telling {
  id: number
  text: string
  kind: 'refusal' | 'news'
  /** What it is about: the next about the same takes its place. */
  about: string
}

/** The sentences that stand before the reader for a few seconds: one refusal and two news at the most, oldest first. */
export const useTellings = create<{ tellings: readonly Telling[] }>(() => ({ tellings: [] }))

const atOnce = { refusal: 1, news: 2 }
const tellFor = 8000

let lastTelling = 0
export function tell(text: string, kind: Telling['kind'] = 'news', about = text) {
  const id = ++lastTelling
  useTellings.setState(({ tellings }) => {
    const others = tellings.filter((one) => one.kind !== kind)
    const alike = tellings.filter((one) => one.kind === kind && one.about !== about)
    return { tellings: [...others, ...[...alike, { id, text, kind, about }].slice(-atOnce[kind])] }
  })
  setTimeout(() => useTellings.setState(({ tellings }) => ({ tellings: tellings.filter((one) => one.id !== id) })), tellFor)
}

export type { Refusal }

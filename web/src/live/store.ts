import { create } from 'zustand'
import type { LedgerRow, MeRow, Refusal, SeatRow, SittingRow, ViewChange, Viewer, WholeView } from '../contract.generated'

export type Line = 'connecting' | 'up' | 'lost' | 'superseded' | 'noSeat'

export interface LiveState {
  line: Line
  v: number
  viewer: Viewer
  me: MeRow | null
  sitting: SittingRow | null
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

type View = Pick<LiveState, 'v' | 'viewer' | 'sitting' | 'seats' | 'ledger'>

/** Changes that came close together, held back for a moment so that the page is drawn once for all of them. */
let ahead: View | null = null
let shownAt = -Infinity
const leastBetween = 60

export const resetLive = () => {
  ahead = null
  shownAt = -Infinity
  turned.clear()
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
export function takeWhole(view: WholeView) {
  const held = newest()
  if (view.viewer === held.viewer && view.v < held.v) return
  ahead = null
  useLive.setState({
    v: view.v,
    viewer: view.viewer,
    sitting: view.sitting,
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
  const seats = new Map(held.seats)
  for (const id of change.drop) seats.delete(id)
  for (const row of change.put) {
    noteMicrophone(seats.get(row.id), row.microphone)
    seats.set(row.id, row)
  }
  for (const { microphone, cameraOn, seats: switched } of change.switched)
    for (const id of switched) {
      const row = seats.get(id)
      noteMicrophone(row, microphone)
      if (row) seats.set(id, { ...row, microphone, cameraOn })
    }
  showSoon({
    v: change.v,
    viewer: held.viewer,
    sitting: change.set ?? held.sitting,
    seats: change.put.length + change.switched.length + change.drop.length > 0 ? seats : held.seats,
    ledger: change.ledger.length > 0 ? [...held.ledger, ...change.ledger].slice(-ledgerDepth) : held.ledger,
  })
  return true
}

/** A hand that aims at a control cannot follow a change of its meaning any faster, in milliseconds. */
const handNeeds = 500
const turned = new Map<number, { was: SeatRow['microphone']; at: number }>()

function noteMicrophone(row: SeatRow | undefined, now: SeatRow['microphone']) {
  if (row && row.microphone !== now) turned.set(row.id, { was: row.microphone, at: performance.now() })
}

/**
 * A microphone as the reader's hand still takes it to be: for a moment after it was switched by somebody else, as it was.
 * So a click meant as "mute" never becomes "ask to unmute".
 */
export function aimedMicrophone(row: SeatRow): SeatRow['microphone'] {
  const last = turned.get(row.id)
  return last && performance.now() - last.at < handNeeds ? last.was : row.microphone
}

export interface Told {
  id: number
  text: string
  kind: 'refusal' | 'news'
  /** What it is about: the next about the same takes its place. */
  about: string
}

/** The sentences that stand before the reader for a few seconds: one refusal and two news at the most, oldest first. */
export const useTold = create<{ told: readonly Told[] }>(() => ({ told: [] }))

const atOnce = { refusal: 1, news: 2 }
const tellFor = 8000

let lastTold = 0
export function tell(text: string, kind: Told['kind'] = 'news', about = text) {
  const id = ++lastTold
  useTold.setState(({ told }) => {
    const others = told.filter((one) => one.kind !== kind)
    const alike = told.filter((one) => one.kind === kind && one.about !== about)
    return { told: [...others, ...[...alike, { id, text, kind, about }].slice(-atOnce[kind])] }
  })
  setTimeout(() => useTold.setState(({ told }) => ({ told: told.filter((one) => one.id !== id) })), tellFor)
}

export type { Refusal }

import { beforeEach, expect, test, vi } from 'vitest'
import type { MeRow, SeatRow, ViewChange } from '../contract.generated'
import type { Sitting } from './store'
import { aimedMicrophone, applyChange, resetLive, takeMe, takeWhole, tell, useLive, useTellings } from './store'
import { serverNow, setClock } from './time'

const seat = (id: number, name: string) => ({ id, name, place: 'seated' }) as SeatRow
const session = (title: string) => ({ title, phase: 'inSession' }) as Sitting['session']
const titled = (title: string) => ({ session: session(title), counts: { inside: 2, waiting: 0, gone: 0 } }) as Sitting
const change = (from: number, v: number, more: Partial<ViewChange> = {}): ViewChange => ({
  from,
  v,
  ...more,
})

beforeEach(() => {
  resetLive()
  takeWhole({
    v: 10,
    viewer: 'bench',
    sitting: titled('Before'),
    seats: [seat(1, 'Anna'), seat(2, 'Ben')],
    ledger: [],
  })
})

test('a change puts, drops and sets, and leaves the rest as the same objects', () => {
  const anna = useLive.getState().seats.get(1)
  const before = useLive.getState().sitting
  expect(applyChange(change(10, 12, { put: [seat(3, 'Cem')], drop: [2], set: { session: session('After') } }))).toBe(true)
  const { seats, sitting, v } = useLive.getState()
  expect([...seats.values()].map((row) => row.name)).toEqual(['Anna', 'Cem'])
  expect(seats.get(1)).toBe(anna)
  expect([sitting?.session.title, v]).toEqual(['After', 12])
  // A facet that did not change is the very object it was.
  expect(sitting?.counts).toBe(before?.counts)
})

test('people who changed alike keep the rest of their rows, and what the bench alone knows of them', () => {
  const note = { asked: false, talked: 5 } as SeatRow['note']
  applyChange(change(10, 11, { put: [{ ...seat(3, 'Cem'), note }] }))
  const altered: ViewChange['altered'] = [
    { seats: [1, 2], to: { microphone: 'byLeave' } },
    { seats: [3], to: { microphone: 'open', note: { asked: true } } },
  ]
  expect(applyChange(change(11, 12, { altered }))).toBe(true)
  const rows = () => [1, 2, 3].map((id) => useLive.getState().seats.get(id))
  return vi.waitFor(() => {
    expect(rows()[0]).toMatchObject({ name: 'Anna', microphone: 'byLeave' })
    expect(rows()[1]).toMatchObject({ name: 'Ben', microphone: 'byLeave' })
    expect(rows()[2]).toMatchObject({ name: 'Cem', microphone: 'open', note: { asked: true, talked: 5 } })
  })
})

test('one is oneself at a version of the view, and an older one does not undo a newer', () => {
  const me = (v: number, name: string) => ({ v, name }) as MeRow
  applyChange(change(10, 12))
  takeMe(me(12, 'Anna'))
  takeMe(me(11, 'Ann'))
  return vi.waitFor(() => expect(useLive.getState().me?.name).toBe('Anna'))
})

test('versions that went by without news for this viewer do not count as missing', () => {
  expect(applyChange(change(8, 15))).toBe(true)
  expect(useLive.getState().v).toBe(15)
})

test('a change that is already in the whole view is ignored', () => {
  expect(applyChange(change(8, 9, { drop: [1] }))).toBe(true)
  expect(useLive.getState().seats.size).toBe(2)
})

test('a gap is noticed and nothing is applied', () => {
  expect(applyChange(change(11, 12, { drop: [1] }))).toBe(false)
  expect(useLive.getState().seats.size).toBe(2)
})

test('changes that follow closely are drawn together, and none is lost', async () => {
  let drawn = 0
  const stop = useLive.subscribe(() => drawn++)
  for (let v = 11; v <= 60; v++) expect(applyChange(change(v - 1, v, { put: [seat(v, `Guest ${v}`)] }))).toBe(true)
  expect(applyChange(change(61, 62))).toBe(false)
  useLive.setState({ line: 'up' })
  await new Promise((wait) => setTimeout(wait, 150))
  stop()
  expect(drawn).toBeLessThan(6)
  expect(useLive.getState()).toMatchObject({ v: 60, line: 'up' })
  expect(useLive.getState().seats.size).toBe(52)
})

test('an older whole view of the same kind does not undo newer changes', () => {
  applyChange(change(10, 11, { put: [seat(3, 'Cem')] }))
  takeWhole({ v: 10, viewer: 'bench', sitting: titled('Before'), seats: [seat(1, 'Anna')], ledger: [] })
  expect(useLive.getState().seats.size).toBe(3)
})

test('a refusal and two news stand at once; the next about the same takes the place; each goes after its time', () => {
  vi.useFakeTimers()
  const tellings = () => useTellings.getState().tellings.map((one) => one.text)
  tell('You may listen.', 'news', 'may')
  tell('Microphones are by leave.', 'refusal')
  vi.advanceTimersByTime(3000)
  tell('The door is locked.')
  tell('You may listen and speak.', 'news', 'may')
  expect(tellings()).toEqual(['Microphones are by leave.', 'The door is locked.', 'You may listen and speak.'])
  tell('A recess has begun.')
  tell('Cameras are for presenters.', 'refusal')
  expect(tellings()).toEqual(['You may listen and speak.', 'A recess has begun.', 'Cameras are for presenters.'])
  vi.advanceTimersByTime(5000)
  expect(tellings()).toHaveLength(3)
  vi.advanceTimersByTime(3000)
  expect(tellings()).toEqual([])
  vi.useRealTimers()
})

test('a microphone that has just been switched is for half a second what it was, so that no hand does the opposite', () => {
  vi.useFakeTimers()
  const row = () => useLive.getState().seats.get(1)!
  applyChange(change(10, 11, { put: [{ ...row(), microphone: 'open' }] }))
  vi.advanceTimersByTime(2000)
  expect(aimedMicrophone(row())).toBe('open')
  applyChange(change(11, 12, { altered: [{ seats: [1], to: { microphone: 'closed' } }] }))
  vi.advanceTimersByTime(100)
  expect(row().microphone).toBe('closed')
  expect(aimedMicrophone(row())).toBe('open')
  const clicked = performance.now()
  const drawn = useLive.getState().seats
  vi.advanceTimersByTime(500)
  expect(aimedMicrophone(row())).toBe('closed')
  expect(useLive.getState().seats, 'what says so is drawn anew, though nothing else happens').not.toBe(drawn)
  // A page that was busy comes to the click late; the hand was in time.
  expect(aimedMicrophone(row(), clicked)).toBe('open')
  vi.useRealTimers()
})

test('clocks go by the server, however wrong the reader’s own is', () => {
  setClock(Date.now() - 3_600_000)
  expect(Math.abs(serverNow() - (Date.now() - 3_600_000))).toBeLessThan(100)
  setClock(Date.now())
})

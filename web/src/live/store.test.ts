import { beforeEach, expect, test } from 'vitest'
import type { SeatRow, SittingRow, ViewChange } from '../contract.generated'
import { applyChange, resetLive, takeWhole, useLive } from './store'

const seat = (id: number, name: string) => ({ id, name, place: 'seated' }) as SeatRow
const change = (from: number, v: number, more: Partial<ViewChange> = {}): ViewChange => ({
  from,
  v,
  set: null,
  put: [],
  drop: [],
  ledger: [],
  ...more,
})

beforeEach(() => {
  resetLive()
  takeWhole({
    v: 10,
    viewer: 'bench',
    sitting: { title: 'Before' } as SittingRow,
    seats: [seat(1, 'Anna'), seat(2, 'Ben')],
    ledger: [],
  })
})

test('a change puts, drops and sets, and leaves the rest as the same objects', () => {
  const anna = useLive.getState().seats.get(1)
  expect(applyChange(change(10, 12, { put: [seat(3, 'Cem')], drop: [2], set: { title: 'After' } as SittingRow }))).toBe(true)
  const { seats, sitting, v } = useLive.getState()
  expect([...seats.values()].map((row) => row.name)).toEqual(['Anna', 'Cem'])
  expect(seats.get(1)).toBe(anna)
  expect([sitting?.title, v]).toEqual(['After', 12])
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

import { useCallback } from 'react'
import { create } from 'zustand'
import type { TFunction } from 'i18next'
import type { SeatRow } from '../contract.generated'
import { useLive, type Sitting } from '../live/store'
import { byRankAndName } from '../people/rank'
import { roomName, type RoomBay } from './words'

/** More rooms than these fold to a line each. */
const mostUnfolded = 6

/** Rooms whose bay is the other way than usual. */
const useFolds = create<{ turned: ReadonlySet<number> }>(() => ({ turned: new Set() }))

export const turnFold = (room: number) =>
  useFolds.setState(({ turned }) => ({
    turned: turned.has(room) ? new Set([...turned].filter((one) => one !== room)) : new Set([...turned, room]),
  }))

/** Folds all to a line each, or unfolds them. */
export const foldAll = (bays: readonly RoomBay[], fold: boolean) =>
  useFolds.setState({ turned: new Set(fold === bays.length > mostUnfolded ? [] : bays.map((bay) => bay.room)) })

export const useIsFolded = (rooms: number) => {
  const turned = useFolds((state) => state.turned)
  return useCallback((room: number) => turned.has(room) !== rooms > mostUnfolded, [turned, rooms])
}

/** Where somebody is, or is planned to be: the number that a wish to move them takes; null for the hall. */
export function placeOf(rooms: Sitting['rooms'], planned: ReadonlyMap<number, number>, seat: SeatRow): number | null {
  if (rooms.opensAt !== null) return planned.get(seat.id) ?? null
  if (rooms.open.length > 0) return seat.room
  const at = planned.get(seat.id)
  return at === undefined ? null : at
}

/** For each seat in the plan the room, from 1. */
export const plannedIn = (rooms: Sitting['rooms']): ReadonlyMap<number, number> =>
  new Map(rooms.draft && rooms.open.length === 0 ? rooms.draft.people.map((one) => [one.seat, one.room + 1]) : [])

/** The bays of rooms, those that call the bench first; none while there are neither rooms nor a plan. */
export function baysOf(t: TFunction, rooms: Sitting['rooms'], seats: readonly SeatRow[]): RoomBay[] {
  const planned = plannedIn(rooms)
  const inRoom = new Map<number, SeatRow[]>()
  for (const seat of seats) {
    const room = seat.place === 'seated' ? placeOf(rooms, planned, seat) : null
    if (room !== null) inRoom.set(room, [...(inRoom.get(room) ?? []), seat])
  }
  const people = (room: number) => (inRoom.get(room) ?? []).sort(byRankAndName)
  if (rooms.open.length > 0)
    return [...rooms.open]
      .sort((a, b) => (a.called ?? Infinity) - (b.called ?? Infinity) || a.ordinal - b.ordinal)
      .map((row) => ({ room: row.number, name: roomName(t, row), row, seats: people(row.number) }))
  return (rooms.draft?.form.rooms ?? []).map((room, at) => ({
    room: at + 1,
    name: roomName(t, { name: room.name, ordinal: at + 1 }),
    row: null,
    seats: people(at + 1),
  }))
}

/** Somebody is in the same place as oneself; where no rooms are open everybody is. */
export const isHere = (seat: SeatRow, me: { room: number | null } | null | undefined) =>
  seat.place === 'seated' && seat.room === (me?.room ?? null)

export const useMyRoom = () => useLive((state) => state.me?.room ?? null)

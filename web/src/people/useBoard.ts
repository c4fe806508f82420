import { useMemo } from 'react'
import { useTranslation } from 'react-i18next'
import type { SeatRow } from '../contract.generated'
import { useLive } from '../live/store'
import { baysOf, placeOf, plannedIn } from '../rooms/bays'
import { fold } from './fold'
import { useGone } from './gone'
import { byRankAndName } from './rank'
import { useTrouble } from './trouble'

/** People with a slot wait in the order of the slots; those without come after them. */
const slotOf = (seat: SeatRow) => seat.note?.line?.slot ?? Number.MAX_SAFE_INTEGER

/** Which people the board shows. */
export type Shown =
  'all' | 'open' | 'filmed' | 'unfilmed' | 'hands' | 'states' | 'presenters' | 'bench' | 'excepted' | 'trouble' | 'phones'
export const showable: readonly Shown[] = [
  'all',
  'open',
  'filmed',
  'unfilmed',
  'hands',
  'states',
  'presenters',
  'bench',
  'excepted',
  'trouble',
  'phones',
]

const fits = (seat: SeatRow, shown: Shown, slow: readonly number[]): boolean => {
  switch (shown) {
    case 'all':
      return true
    case 'open':
      return seat.microphone === 'open'
    case 'filmed':
      return seat.cameraOn
    case 'unfilmed':
      return seat.place === 'seated' && !seat.cameraOn
    case 'hands':
      return seat.hand !== null
    case 'states':
      return seat.state !== null
    case 'presenters':
      return seat.role === 'presenter'
    case 'bench':
      return seat.role === 'deputy' || seat.role === 'host'
    case 'excepted':
      return (seat.note?.given.length ?? 0) + (seat.note?.taken.length ?? 0) > 0
    case 'trouble':
      return seat.place !== 'gone' && (!seat.connected || slow.includes(seat.id))
    case 'phones':
      return seat.byPhone
  }
}

/** The strips in their bays, found by name and kind; one's own stands apart. */
export function useBoard(find: string, kind: Shown, room: number | null = null) {
  const seats = useLive((state) => state.seats)
  const self = useLive((state) => state.me?.seat)
  const queue = useLive((state) => state.sitting?.hands.queue ?? null)
  const older = useGone((state) => state.rows)
  const slow = useTrouble((state) => state.slow)
  const turn = useLive((state) => state.sitting?.floor.turn?.seat ?? null)
  const rooms = useLive((state) => state.sitting?.rooms)
  const { t } = useTranslation()
  return useMemo(() => {
    const all = [...seats.values(), ...older.filter((row) => !seats.has(row.id))].filter((seat) => seat.id !== self)
    const wanted = fold(find.trim())
    const shown = all.filter((seat) => fits(seat, kind, slow) && (!wanted || fold(seat.name).includes(wanted)))
    const lobby = shown.filter((seat) => seat.place === 'lobby').sort((a, b) => slotOf(a) - slotOf(b) || a.since - b.since)
    const place = new Map(queue?.map((id, at) => [id, at]))
    const bays = rooms ? baysOf(t, rooms, shown) : []
    const planned = rooms ? plannedIn(rooms) : new Map<number, number>()
    const inRoom = (seat: SeatRow) => rooms !== undefined && bays.length > 0 && placeOf(rooms, planned, seat) !== null
    const onFloor = (seat: SeatRow) =>
      room === null && (seat.id === turn || place.has(seat.id)) && (rooms?.open.length === 0 || !inRoom(seat))
    const floor = shown
      .filter((seat) => seat.place === 'seated' && onFloor(seat))
      .sort((a, b) => Number(b.id === turn) - Number(a.id === turn) || (place.get(a.id) ?? 0) - (place.get(b.id) ?? 0))
    const inside = shown.filter((seat) => seat.place === 'seated' && !onFloor(seat) && !inRoom(seat)).sort(byRankAndName)
    const finds = wanted !== '' || kind !== 'all'
    const only = bays.filter((bay) => (room === null || bay.room === room) && (!finds || bay.seats.length > 0))
    const gone = shown.filter((seat) => seat.place === 'gone').sort((a, b) => b.since - a.since)
    return { all, lobby, floor, bays: only, hasRooms: bays.length > 0, inside: room === null ? inside : [], gone }
  }, [seats, older, self, find, kind, slow, queue, turn, rooms, room, t])
}

/** The bay in which somebody's strip stands. */
export const useBay = (seat: SeatRow) => {
  const holds = useLive((state) => state.sitting?.floor.turn?.seat === seat.id)
  return seat.place === 'seated' && (holds || seat.hand !== null) ? 'floor' : seat.place
}

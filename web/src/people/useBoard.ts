import { useMemo } from 'react'
import type { SeatRow } from '../contract.generated'
import { useLive } from '../live/store'
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
export function useBoard(find: string, kind: Shown) {
  const seats = useLive((state) => state.seats)
  const self = useLive((state) => state.me?.seat)
  const queue = useLive((state) => state.sitting?.hands.queue ?? null)
  const older = useGone((state) => state.rows)
  const slow = useTrouble((state) => state.slow)
  const turn = useLive((state) => state.sitting?.floor.turn?.seat ?? null)
  return useMemo(() => {
    const all = [...seats.values(), ...older.filter((row) => !seats.has(row.id))].filter((seat) => seat.id !== self)
    const wanted = fold(find.trim())
    const shown = all.filter((seat) => fits(seat, kind, slow) && (!wanted || fold(seat.name).includes(wanted)))
    const lobby = shown.filter((seat) => seat.place === 'lobby').sort((a, b) => slotOf(a) - slotOf(b) || a.since - b.since)
    const place = new Map(queue?.map((id, at) => [id, at]))
    const onFloor = (seat: SeatRow) => seat.id === turn || place.has(seat.id)
    const floor = shown
      .filter((seat) => seat.place === 'seated' && onFloor(seat))
      .sort((a, b) => Number(b.id === turn) - Number(a.id === turn) || (place.get(a.id) ?? 0) - (place.get(b.id) ?? 0))
    const inside = shown.filter((seat) => seat.place === 'seated' && !onFloor(seat)).sort(byRankAndName)
    const gone = shown.filter((seat) => seat.place === 'gone').sort((a, b) => b.since - a.since)
    return { all, lobby, floor, inside, gone }
  }, [seats, older, self, find, kind, slow, queue, turn])
}

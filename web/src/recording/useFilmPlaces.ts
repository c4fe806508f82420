import type { Framing } from '../contract.generated'
import { isHere } from '../rooms/bays'
import { useLive } from '../live/store'
import { useMedia } from '../media/engine'
import { placesOf } from './placing'

/** Who and what stands where in a film of this framing, at this moment. */
export function useFilmPlaces(framing: Framing) {
  const seats = useLive((state) => state.seats)
  const me = useLive((state) => state.me)
  const floor = useLive((state) => state.sitting?.floor.turn?.seat ?? null)
  const shown = useLive((state) => state.sitting?.shelf.exhibits.find((one) => one.shown) ?? null)
  // The screen of somebody who is not in it is not in it either.
  const exhibit = shown?.kind === 'screen' && seats.get(shown.by)?.recordable !== true ? null : shown
  const speaker = useMedia((state) => state.speaker)
  const host = useLive((state) => state.sitting?.session.host ?? null)
  const people = [...seats.values()]
    .filter((seat) => isHere(seat, me) && seat.recordable)
    .sort((a, b) => Number(b.id === host) - Number(a.id === host) || a.id - b.id)
  const first =
    [floor, speaker].find((seat) => people.some((one) => one.id === seat)) ??
    people.find((one) => one.cameraOn)?.id ??
    people[0]?.id ??
    null
  const seen = people.filter((one) => one.cameraOn || one.id === first).map((one) => one.id)
  return { places: placesOf(framing, seen, first, exhibit !== null), seats, exhibit }
}

import type { Framing } from '../contract.generated'

/** A place in a picture, in parts of its width and height. */
export interface Place {
  key: string
  seat: number | null
  x: number
  y: number
  wide: number
  high: number
}

const column = 0.2
const mostEven = 25

/** How a film of this framing stands, as the server composes it. */
export function placesOf(framing: Framing, people: readonly number[], first: number | null, shows: boolean): Place[] {
  if (framing === 'sound') return []
  const others = people.filter((seat) => seat !== first)
  const person = (seat: number, x: number, y: number, wide: number, high: number): Place => ({
    key: `p${seat}`,
    seat,
    x,
    y,
    wide,
    high,
  })
  const stack = (seats: readonly number[]) =>
    seats.slice(0, 5).map((seat, at) => person(seat, 1 - column, at * column, column, column))
  if (framing === 'even' && !shows) {
    const all = people.slice(0, mostEven)
    const across = Math.ceil(Math.sqrt(all.length))
    const down = Math.ceil(all.length / Math.max(1, across))
    const side = 1 / Math.max(across, down)
    return all.map((seat, at) => {
      const row = Math.floor(at / across)
      const inRow = Math.min(across, all.length - row * across)
      return person(seat, (1 - inRow * side) / 2 + (at % across) * side, (1 - down * side) / 2 + row * side, side, side)
    })
  }
  if (shows) {
    const beside = framing === 'exhibit' ? (first === null ? [] : [first]) : [...(first === null ? [] : [first]), ...others]
    return [{ key: 'exhibit', seat: null, x: 0, y: 0, wide: beside.length > 0 ? 1 - column : 1, high: 1 }, ...stack(beside)]
  }
  if (first === null) return []
  if (others.length === 0) return [person(first, 0, 0, 1, 1)]
  return [person(first, 0, column / 2, 1 - column, 1 - column), ...stack(others)]
}

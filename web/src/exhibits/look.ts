import type { PageView } from '../contract.generated'

// How an exhibit stands in its place: whole, or closer to some place on it, or turned round.

export interface Size {
  width: number
  height: number
}

/** What the middle of the place shows, and how large; as the server keeps it for all, and each page for itself. */
export type Look = PageView

export const wholeLook: Look = { scale: 1, x: 0.5, y: 0.5, turn: 0 }

export const closest = 8

/** From the page, in pixels of its picture, to the place: left, top, and how many pixels one becomes. */
export interface Standing {
  left: number
  top: number
  width: number
  height: number
  scale: number
  turn: number
}

const upright = (turn: number) => turn % 180 === 0

/** The size of the page as it is turned. */
export const turned = (page: Size, turn: number): Size => (upright(turn) ? page : { width: page.height, height: page.width })

/** How large everything is when the whole of it fits. */
export const fitting = (place: Size, page: Size, turn: number) => {
  const { width, height } = turned(page, turn)
  return Math.min(place.width / Math.max(1, width), place.height / Math.max(1, height))
}

/** Keeps to what is there: nothing beside the page where the page would fill it. */
export function within(look: Look, place: Size, page: Size): Look {
  const scale = Math.max(1, Math.min(closest, look.scale))
  const { width, height } = turned(page, look.turn)
  const size = fitting(place, page, look.turn) * scale
  const free = (at: number, length: number, room: number) => {
    const half = room / 2 / Math.max(1, length * size)
    return half >= 0.5 ? 0.5 : Math.max(half, Math.min(1 - half, at))
  }
  return { scale, x: free(look.x, width, place.width), y: free(look.y, height, place.height), turn: look.turn }
}

/** Where the page stands. */
export function standing(look: Look, place: Size, page: Size): Standing {
  const { x, y, scale: closer, turn } = within(look, place, page)
  const scale = fitting(place, page, turn) * closer
  const { width, height } = turned(page, turn)
  return {
    left: place.width / 2 - x * width * scale,
    top: place.height / 2 - y * height * scale,
    width: width * scale,
    height: height * scale,
    scale,
    turn,
  }
}

/** The same with another size, so that what is under a point of the place stays under it. */
export function closer(look: Look, scale: number, at: { x: number; y: number }, place: Size, page: Size): Look {
  const now = standing(look, place, page)
  const held = { x: (at.x - now.left) / now.width, y: (at.y - now.top) / now.height }
  const { width, height } = turned(page, look.turn)
  const size = fitting(place, page, look.turn) * Math.max(1, Math.min(closest, scale))
  return within(
    {
      ...look,
      scale,
      x: held.x + (place.width / 2 - at.x) / (width * size),
      y: held.y + (place.height / 2 - at.y) / (height * size),
    },
    place,
    page,
  )
}

export function moved(look: Look, dx: number, dy: number, place: Size, page: Size): Look {
  const now = standing(look, place, page)
  return within({ ...look, x: look.x - dx / now.width, y: look.y - dy / now.height }, place, page)
}

/** From the units of marks to pixels of the place: a, b, c, d, e, f of a canvas. */
export function matrix(stand: Standing, page: Size, units: number): [number, number, number, number, number, number] {
  const size = (stand.scale * page.width) / units
  switch (stand.turn) {
    case 90:
      return [0, size, -size, 0, stand.left + stand.width, stand.top]
    case 180:
      return [-size, 0, 0, -size, stand.left + stand.width, stand.top + stand.height]
    case 270:
      return [0, -size, size, 0, stand.left, stand.top + stand.height]
    default:
      return [size, 0, 0, size, stand.left, stand.top]
  }
}

/** From pixels of the place to the units of marks. */
export function unitsAt(stand: Standing, page: Size, units: number, x: number, y: number): [number, number] {
  const [a, b, c, d, e, f] = matrix(stand, page, units)
  const of = a * d - b * c
  return [(d * (x - e) - c * (y - f)) / of, (a * (y - f) - b * (x - e)) / of]
}

import type { Mark, MarkShape } from '../contract.generated'
import { drawnOf, frameOf } from './paint'

export const grows = (shape: MarkShape) => shape === 'pen' || shape === 'highlighter'

export interface Drawing {
  does: 'draw'
  shape: MarkShape
  points: number[]
  /** How many numbers of them have gone out. */
  sent: number
  stroke: number
  later: ReturnType<typeof setTimeout> | null
  over: boolean
}

export interface Moving {
  does: 'move'
  mark: Mark
  from: [number, number]
  to: [number, number]
  /** Its corner is held: it becomes larger or smaller. */
  stretches: boolean
}

/** What the hand does now. */
export type Own = Drawing | Moving | { does: 'erase'; gone: Set<number> } | { does: 'point' }

/** Where the points of a mark are while it is moved or stretched. */
export function movedPoints({ mark, from, to, stretches }: Moving): number[] {
  const { points } = drawnOf(mark)
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]]
  if (!stretches) return points.map((value, at) => value + (at % 2 === 0 ? dx : dy))
  const { left, top, right, bottom } = frameOf(drawnOf(mark))
  const wide = Math.max(0.05, (right - left + dx) / Math.max(1, right - left))
  const high = Math.max(0.05, (bottom - top + dy) / Math.max(1, bottom - top))
  return points.map((value, at) => (at % 2 === 0 ? left + (value - left) * wide : top + (value - top) * high))
}

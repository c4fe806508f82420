import { useLive } from '../live/store'
import { useNow } from '../live/time'

/** How a turn stands, in milliseconds: how long it lasts already, and what is left of it (below zero when it is over). */
export function useTurn() {
  const turn = useLive((state) => state.sitting?.floor.turn ?? null)
  const now = useNow()
  if (!turn) return null
  const spent = Math.max(0, now - turn.since)
  const left = turn.seconds === null ? null : turn.seconds * 1000 - spent
  return { ...turn, spent, left, warns: left !== null && left < 15_000 }
}

import { currentSitting } from '../live/connection'

/** A secret ballot's token, which this browser alone keeps: whoever has it can change that ballot. */
const placeOf = (poll: number) => `ballot:${currentSitting()}:${poll}`

export const keptToken = (poll: number) => localStorage.getItem(placeOf(poll))

/** The token under which this browser votes; kept before it is sent, so that an answer that is lost loses no vote. */
export function tokenFor(poll: number): string {
  const kept = keptToken(poll)
  if (kept) return kept
  const made = [...crypto.getRandomValues(new Uint8Array(16))].map((byte) => byte.toString(16).padStart(2, '0')).join('')
  localStorage.setItem(placeOf(poll), made)
  return made
}

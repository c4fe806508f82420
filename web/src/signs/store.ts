import { create } from 'zustand'
import type { SignRow } from '../contract.generated'

export interface ShownSign extends SignRow {
  id: number
}

/** How long a reaction is seen, in milliseconds. */
export const fading = 6000

/** The reactions that are seen now, each counted with those of the same kind that came while it was seen. */
export const useSigns = create<{ shown: readonly ShownSign[] }>(() => ({ shown: [] }))

let last = 0

export function showSigns(signs: readonly SignRow[]) {
  for (const sign of signs) {
    const id = ++last
    const before = useSigns.getState().shown.find((one) => one.sign === sign.sign)
    const joined = {
      id,
      sign: sign.sign,
      count: sign.count + (before?.count ?? 0),
      names: [...new Set([...(before?.names ?? []), ...sign.names])].slice(0, 3),
    }
    useSigns.setState(({ shown }) => ({ shown: [...shown.filter((one) => one.sign !== sign.sign), joined] }))
    setTimeout(() => useSigns.setState(({ shown }) => ({ shown: shown.filter((one) => one.id !== id) })), fading)
  }
}

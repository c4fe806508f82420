import { create } from 'zustand'
import type { OutlookRow, SeatStart } from '../contract.generated'

/** How the visits are expected to go on; forgettable, and renewed by the server every few seconds. */
export const useOutlook = create<{ outlook: OutlookRow | null }>(() => ({ outlook: null }))

export const useStartOf = (seat: number): SeatStart | null =>
  useOutlook((state) => state.outlook?.starts.find((start) => start.seat === seat) ?? null)

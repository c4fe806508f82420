import { create } from 'zustand'
import type { SeatRow } from '../contract.generated'

/** People who have gone and whom the view does not hold: those who were asked for, and those whom it let go of since. Latest first. */
export const useGone = create<{ rows: readonly SeatRow[] }>(() => ({ rows: [] }))

export const addOlder = (rows: readonly SeatRow[]) => useGone.setState((state) => ({ rows: [...state.rows, ...rows] }))

/** The view lets go of the oldest when somebody else goes. They are kept only where older ones are shown already. */
export const keepLetGo = (rows: readonly SeatRow[]) => {
  const gone = rows.filter((row) => row.place === 'gone')
  if (gone.length > 0) useGone.setState((state) => (state.rows.length > 0 ? { rows: [...gone, ...state.rows] } : state))
}

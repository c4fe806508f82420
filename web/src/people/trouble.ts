import { create } from 'zustand'
import type { TroubleRow } from '../contract.generated'

/** Whose connection carries less than it might, and how much can still be recorded; for the bench alone. */
export const useTrouble = create<TroubleRow>(() => ({ slow: [], roomFor: null, standsSince: null }))

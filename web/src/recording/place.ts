import { create } from 'zustand'

/** Where the film is played at this moment, in milliseconds. */
export const usePlace = create<{ at: number }>(() => ({ at: 0 }))

import { create } from 'zustand'
import { kept } from '../settings/kept'
import type { ShortForms } from './typing'

const place = 'shortForms'
export const mostForms = 500
export const longestForm = 120

/** A captioner's short forms, kept in this browser. */
export const useShortForms = create<{ forms: ShortForms }>(() => ({
  forms: Object.fromEntries(
    Object.entries(kept<Record<string, unknown>>(place)).filter(([, long]) => typeof long === 'string'),
  ) as ShortForms,
}))

function keep(forms: ShortForms) {
  useShortForms.setState({ forms })
  localStorage.setItem(place, JSON.stringify(forms))
}

export const addForm = (short: string, long: string) => keep({ ...useShortForms.getState().forms, [short]: long })

export const dropForm = (short: string) =>
  keep(Object.fromEntries(Object.entries(useShortForms.getState().forms).filter(([one]) => one !== short)))

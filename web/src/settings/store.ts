import { create } from 'zustand'
import { kept } from './kept'

export type Theme = 'system' | 'light' | 'dark'
export type Density = 'roomy' | 'compact'
export const textSizes = [90, 100, 115, 130, 150] as const

interface Settings {
  theme: Theme
  density: Density
  /** Per cent of the usual size. */
  textSize: number
  /** Whether news about others is shown over the page: reactions. */
  showsSigns: boolean
  /** A sound for messages written to oneself or the bench. */
  messageSound: boolean
}

export const usualSettings: Settings = { theme: 'system', density: 'roomy', textSize: 100, showsSigns: true, messageSound: false }
const place = 'settings'

/** How this reader wants to have it, kept in this browser, and with the account of whoever is signed in. */
export const useSettings = create<Settings>(() => ({ ...usualSettings, ...kept<Settings>(place) }))

export function change(part: Partial<Settings>) {
  useSettings.setState(part)
  localStorage.setItem(place, JSON.stringify(useSettings.getState()))
  show()
}

/** Brings the page to the settings. */
export function show() {
  const { theme, textSize } = useSettings.getState()
  const root = document.documentElement
  if (theme === 'system') delete root.dataset['theme']
  else root.dataset['theme'] = theme
  root.style.fontSize = textSize === 100 ? '' : `${textSize}%`
}

/** A strip's height and the gap below it, in pixels, as the text's size and the density make it. */
export const useStripHeight = () =>
  useSettings(({ density, textSize }) => Math.round(((density === 'compact' ? 28 : 36) * textSize) / 100) + 2)

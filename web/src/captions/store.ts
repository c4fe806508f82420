import { create } from 'zustand'
import type { CaptionRow } from '../contract.generated'
import { kept } from '../settings/kept'

/** How many lines the page holds. */
const most = 500

/** What was said since one came in, in words, in the order in which it was heard. */
export const useCaptions = create<{ lines: readonly CaptionRow[]; at: ReadonlyMap<number, number> }>(() => ({
  lines: [],
  at: new Map(),
}))

/** New lines, and corrected ones; a line without words was withdrawn. */
export function takeCaptions(rows: readonly CaptionRow[], now: number) {
  const { lines, at } = useCaptions.getState()
  const all = new Map(lines.map((line) => [line.number, line]))
  const seen = new Map(at)
  for (const row of rows) {
    if (row.text === '') all.delete(row.number)
    else all.set(row.number, row)
    if (!seen.has(row.number)) seen.set(row.number, now)
  }
  const sorted = [...all.values()].sort((a, b) => a.heard - b.heard || a.number - b.number).slice(-most)
  useCaptions.setState({ lines: sorted, at: new Map(sorted.map((line) => [line.number, seen.get(line.number) ?? now])) })
}

export const forgetCaptions = () => useCaptions.setState({ lines: [], at: new Map() })

/** Where captions stand: under the picture, above it, or over its foot. */
export const captionPlaces = ['below', 'above', 'over'] as const
export type CaptionPlace = (typeof captionPlaces)[number]

/** Per cent of the text's usual size. */
export const captionSizes = [100, 130, 170, 220] as const

interface Reading {
  on: boolean
  size: number
  place: CaptionPlace
}

const usual: Reading = { on: false, size: 130, place: 'below' }
const place = 'captions'

/** How this reader reads captions. It is kept in this browser alone, and nobody is told. */
export const useReading = create<Reading>(() => {
  const read = { ...usual, ...kept<Reading>(place) }
  return captionPlaces.includes(read.place) && typeof read.size === 'number' ? read : usual
})

export function read(change: Partial<Reading>) {
  useReading.setState(change)
  localStorage.setItem(place, JSON.stringify(useReading.getState()))
}

export const toggleCaptions = () => read({ on: !useReading.getState().on })

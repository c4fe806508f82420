import { create } from 'zustand'
import { exhibits } from '../api/client'
import type { Mark, MarkActRow, MarkColour, MarkShape, StrokeRow } from '../contract.generated'
import { readLine } from './line'

/** The marks over one exhibit, as they are on the server's disk. */
export interface Layer {
  sequence: number
  marks: ReadonlyMap<number, Mark>
}

export const useLayers = create<{ layers: ReadonlyMap<number, Layer> }>(() => ({ layers: new Map() }))

/** What came while a layer was being fetched, and whether it has to be fetched once more. */
const waiting = new Map<number, { acts: MarkActRow[]; again: boolean }>()

function put(exhibit: number, layer: Layer) {
  useLayers.setState(({ layers }) => ({ layers: new Map(layers).set(exhibit, layer) }))
}

/** Fetches the marks of an exhibit, of the pages that one may see now. */
export async function fetchLayer(sitting: string, exhibit: number) {
  const running = waiting.get(exhibit)
  if (running) {
    running.again = true
    return
  }
  const own = { acts: [] as MarkActRow[], again: false }
  waiting.set(exhibit, own)
  try {
    const { sequence, marks } = await exhibits.marks(sitting, exhibit)
    if (waiting.get(exhibit) !== own) return
    put(exhibit, { sequence, marks: new Map(marks.map((mark) => [mark.number, mark])) })
    for (const act of own.acts) if (!apply(act)) break
  } catch {
    // It was taken down meanwhile, or the line is lost: then it is asked for again when it is seen again.
  } finally {
    if (waiting.get(exhibit) === own) waiting.delete(exhibit)
  }
  if (own.again) await fetchLayer(sitting, exhibit)
}

/** False when an act is missing before this one. */
function apply(act: MarkActRow): boolean {
  const held = useLayers.getState().layers.get(act.exhibit)
  if (!held || act.sequence <= held.sequence) return true
  if (act.sequence > held.sequence + 1) return false
  const marks = new Map(held.marks)
  for (const number of act.drop) marks.delete(number)
  for (const mark of act.put) marks.set(mark.number, mark)
  // In the order of drawing, though one came back.
  const inOrder = act.put.some((mark) => mark.number < Math.max(0, ...held.marks.keys()))
    ? new Map([...marks].sort(([a], [b]) => a - b))
    : marks
  put(act.exhibit, { sequence: act.sequence, marks: inOrder })
  return true
}

export function takeAct(sitting: string, act: MarkActRow) {
  settle(act)
  const fetching = waiting.get(act.exhibit)
  if (fetching) fetching.acts.push(act)
  else if (!apply(act)) void fetchLayer(sitting, act.exhibit)
}

/** The line was taken up anew: what happened meanwhile is not known. */
export function forgetLayers() {
  waiting.clear()
  strokes.clear()
  useLayers.setState({ layers: new Map() })
}

/** So many numbers of a stroke that does not end are kept. */
const mostNumbers = 8000

/** Something that is being drawn, or a pointer. */
export interface Stroke {
  by: number
  exhibit: number
  page: number
  shape: MarkShape | null
  colour: MarkColour
  width: number
  points: number[]
  /** When its last piece came, and for a pointer when the one before. */
  at: number
  before: number
}

/** What others are drawing; of each the piece that came last decides how long it is kept. */
export const strokes = new Map<string, Stroke>()
const watchers = new Set<() => void>()

/** Is called whenever something that is being drawn has gone on. */
export function watchStrokes(watcher: () => void): () => void {
  watchers.add(watcher)
  return () => void watchers.delete(watcher)
}

/** A stroke whose end was lost goes after so long, in milliseconds, and a pointer that stands still. */
export const keptFor = (stroke: Stroke) => (stroke.shape === null ? 3000 : 6000)

export function takeStrokes(rows: readonly StrokeRow[], self: number | undefined) {
  for (const row of rows) {
    if (row.by === self) continue
    const key = row.shape === null ? `${row.by} ${row.exhibit} point` : `${row.by} ${row.exhibit} ${row.stroke}`
    if (row.line === '') {
      strokes.delete(key)
      continue
    }
    const now = performance.now()
    const points = readLine(row.line)
    const held = strokes.get(key)
    const grows = row.shape === 'pen' || row.shape === 'highlighter'
    const from = row.shape === null && held ? held.points.slice(-2) : []
    strokes.set(key, {
      ...row,
      points: grows ? [...(held?.points ?? []), ...points].slice(-mostNumbers) : [...from, ...points.slice(0, 4)].slice(-4),
      at: now,
      before: held?.at ?? now,
    })
  }
  watchers.forEach((watch) => watch())
}

/** What was finished takes the place of what was being drawn. */
function settle(act: MarkActRow) {
  if (act.put.length === 0) return
  for (const [key, stroke] of strokes)
    if (stroke.by === act.by && stroke.exhibit === act.exhibit && stroke.shape !== null) {
      strokes.delete(key)
      break
    }
  watchers.forEach((watch) => watch())
}

import { create } from 'zustand'

/** Something that somebody wrote down for themselves. */
export interface Note {
  id: number
  /** When writing it began, in milliseconds since 1970, by the server's clock. */
  at: number
  text: string
}

export const longestNote = 4_000

const placeOf = (sitting: string) => `notes-${sitting}`

function kept(sitting: string): Note[] {
  try {
    const read: unknown = JSON.parse(localStorage.getItem(placeOf(sitting)) ?? '[]')
    return Array.isArray(read)
      ? read.filter((one: Partial<Note> | null): one is Note => typeof one?.at === 'number' && typeof one.text === 'string')
      : []
  } catch {
    return []
  }
}

/** Notes by sitting. They stay in this browser, and nobody else has them. */
export const useNotes = create<Record<string, Note[]>>(() => ({}))

export function notesOf(sitting: string): Note[] {
  const known = useNotes.getState()[sitting]
  if (known) return known
  const read = kept(sitting)
  useNotes.setState({ [sitting]: read })
  return read
}

/** @returns Whether the browser could keep it. */
function keep(sitting: string, notes: Note[]): boolean {
  useNotes.setState({ [sitting]: notes })
  try {
    if (notes.length === 0) localStorage.removeItem(placeOf(sitting))
    else localStorage.setItem(placeOf(sitting), JSON.stringify(notes))
    return true
  } catch {
    return false
  }
}

export const addNote = (sitting: string, at: number, text: string) => {
  const notes = notesOf(sitting)
  const id = notes.reduce((most, one) => Math.max(most, one.id), 0) + 1
  return keep(
    sitting,
    [...notes, { id, at, text: text.trim().slice(0, longestNote) }].sort((a, b) => a.at - b.at),
  )
}

export const changeNote = (sitting: string, id: number, text: string) =>
  keep(
    sitting,
    notesOf(sitting).flatMap((one) =>
      one.id !== id ? [one] : text.trim() === '' ? [] : [{ ...one, text: text.trim().slice(0, longestNote) }],
    ),
  )

/** As text, or as Markdown: each with its time. */
export function notesAsText(title: string, notes: readonly Note[], timeOf: (at: number) => string, markdown: boolean): string {
  const lines = notes.map((one) =>
    markdown
      ? `- **${timeOf(one.at)}** ${one.text.replace(/\n/g, '\n  ')}`
      : `[${timeOf(one.at)}] ${one.text.replace(/\n/g, '\n    ')}`,
  )
  return `${markdown ? '# ' : ''}${title}\n\n${lines.join('\n')}\n`
}

/** Where in a film a moment is; null when it is not in it. */
export function placeIn(stretches: readonly { from: number; to: number }[], at: number): number | null {
  let before = 0
  for (const one of stretches) {
    if (at < one.from) return null
    if (at < one.to) return before + (at - one.from)
    before += one.to - one.from
  }
  return null
}

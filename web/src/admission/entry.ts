/** How somebody wants to enter, kept for this tab so that it holds while they wait. */
export interface EntryWish {
  camera: boolean
  microphone: boolean
}

const key = 'entry'

export function keepEntryWish(wish: EntryWish) {
  sessionStorage.setItem(key, JSON.stringify(wish))
}

/** Takes the wish: it is carried out once, on the first seating. */
export function takeEntryWish(): EntryWish | null {
  const kept = sessionStorage.getItem(key)
  sessionStorage.removeItem(key)
  return kept ? (JSON.parse(kept) as EntryWish) : null
}

export const rememberedName = () => localStorage.getItem('name') ?? ''
export const rememberName = (name: string) => localStorage.setItem('name', name)

/** How somebody wants to enter, kept for this tab so that it holds while they wait. */
export interface EntryWish {
  camera: boolean
  microphone: boolean
}

const key = 'entry'

export function keepEntryWish(wish: EntryWish) {
  sessionStorage.setItem(key, JSON.stringify(wish))
}

/** Somebody who wants to listen only is not filmed while waiting either. */
export function wantsCamera(): boolean {
  const kept = sessionStorage.getItem(key)
  return kept === null || (JSON.parse(kept) as EntryWish).camera
}

/** Takes the wish: it is carried out once, on the first seating. */
export function takeEntryWish(): EntryWish | null {
  const kept = sessionStorage.getItem(key)
  sessionStorage.removeItem(key)
  return kept ? (JSON.parse(kept) as EntryWish) : null
}

export const rememberedName = () => localStorage.getItem('name') ?? ''
export const rememberName = (name: string) => localStorage.setItem('name', name)

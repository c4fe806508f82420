import { useState } from 'react'

/** Which part is shown, remembered in this browser; the chat at first. */
export function useSide(first: string) {
  const [shown, setShown] = useState<string | null>(() => localStorage.getItem('side') ?? first)
  const show = (key: string | null) => {
    localStorage.setItem('side', key ?? '')
    setShown(key)
  }
  return [shown || null, show] as const
}

import { useState } from 'react'

/** Which part is shown, remembered in this browser; at first the one named, or none where it would cover the page. */
export function useSide(first: string) {
  const [shown, setShown] = useState<string | null>(() => (isNarrow() ? null : (localStorage.getItem('side') ?? first)))
  const show = (key: string | null) => {
    if (!isNarrow()) localStorage.setItem('side', key ?? '')
    setShown(key)
  }
  return [shown || null, show] as const
}

const isNarrow = () => matchMedia('(max-width: 767px)').matches

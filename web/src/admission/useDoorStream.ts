import { useEffect, useEffectEvent, useState } from 'react'

/** After so long without a sign of life, in milliseconds, the stream counts as broken; the server gives one every 15 s. */
const patience = 40_000
const leastBetween = 2000
const mostBetween = 10_000

/**
 * Waits at a door on one quiet stream, and calls when the page should be looked at anew.
 * @returns whether the stream is broken at the moment; it is opened again by itself.
 */
export function useDoorStream(link: string, waits: boolean, look: () => void): boolean {
  const [broken, setBroken] = useState(false)
  const looked = useEffectEvent(look)
  useEffect(() => {
    if (!waits) return
    let stream: EventSource | null = null
    let timer: ReturnType<typeof setTimeout> | undefined
    let tries = 0
    const alive = () => {
      tries = 0
      setBroken(false)
      clearTimeout(timer)
      timer = setTimeout(again, patience)
    }
    const open = () => {
      stream = new EventSource(`/api/door/${encodeURIComponent(link)}/stream`)
      stream.addEventListener('quiet', alive)
      stream.addEventListener('look', () => {
        alive()
        // Everybody who waits is told at once, and need not ask at once.
        setTimeout(looked, Math.random() * 400)
      })
      stream.onerror = again
    }
    const again = () => {
      stream?.close()
      clearTimeout(timer)
      setBroken(true)
      timer = setTimeout(open, Math.min(mostBetween, leastBetween * 2 ** tries++) * (0.75 + Math.random() / 2))
    }
    open()
    return () => {
      stream?.close()
      clearTimeout(timer)
    }
  }, [link, waits])
  return waits && broken
}

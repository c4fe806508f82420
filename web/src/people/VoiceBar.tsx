import { useEffect, useRef } from 'react'
import { media } from '../media/engine'

/** A small upright bar that follows a voice. */
export function VoiceBar({ seat }: { seat: number }) {
  const bar = useRef<HTMLSpanElement>(null)
  useEffect(
    () =>
      media.listen(seat, (level) => {
        if (bar.current) bar.current.style.transform = `scaleY(${Math.max(0.15, level / 100)})`
      }),
    [seat],
  )
  return <span ref={bar} aria-hidden className="inline-block h-3.5 w-1 origin-bottom scale-y-[0.15] bg-moss" />
}

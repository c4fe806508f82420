import { useEffect, useRef, type PointerEvent, type RefObject } from 'react'

/**
 * The hand on an exhibit: moves it when it is larger than its place, two fingers or the wheel with Control bring it closer, a double
 * click goes closer and back.
 */
export function useHand(
  area: RefObject<HTMLElement | null>,
  draws: boolean,
  nearer: (by: number, at: { x: number; y: number }) => void,
  shift: (dx: number, dy: number) => void,
  turn: () => void,
) {
  const fingers = useRef(new Map<number, { x: number; y: number }>())
  const acts = useRef({ nearer, shift })
  useEffect(() => {
    acts.current = { nearer, shift }
  })
  // React's own wheel handlers cannot keep the page from being scaled.
  useEffect(() => {
    const element = area.current
    if (!element) return
    const wheel = (event: WheelEvent) => {
      if (!event.ctrlKey && !event.metaKey) return
      event.preventDefault()
      const box = element.getBoundingClientRect()
      acts.current.nearer(Math.exp(-event.deltaY / 300), { x: event.clientX - box.left, y: event.clientY - box.top })
    }
    element.addEventListener('wheel', wheel, { passive: false })
    return () => element.removeEventListener('wheel', wheel)
  }, [area])
  const at = (event: PointerEvent) => ({ x: event.clientX, y: event.clientY })
  return {
    onPointerDown: (event: PointerEvent) => {
      if (event.button === 0) fingers.current.set(event.pointerId, at(event))
    },
    onPointerMove: (event: PointerEvent) => {
      const before = fingers.current.get(event.pointerId)
      if (!before) return
      const now = at(event)
      const other = [...fingers.current].find(([id]) => id !== event.pointerId)?.[1]
      fingers.current.set(event.pointerId, now)
      if (other) {
        const box = area.current!.getBoundingClientRect()
        const [was, is] = [before, now].map((point) => Math.hypot(point.x - other.x, point.y - other.y))
        acts.current.nearer(is! / Math.max(1, was!), { x: (now.x + other.x) / 2 - box.left, y: (now.y + other.y) / 2 - box.top })
      } else if (!draws) acts.current.shift(now.x - before.x, now.y - before.y)
    },
    onPointerUp: (event: PointerEvent) => void fingers.current.delete(event.pointerId),
    onPointerCancel: (event: PointerEvent) => void fingers.current.delete(event.pointerId),
    onPointerLeave: (event: PointerEvent) => void fingers.current.delete(event.pointerId),
    onDoubleClick: () => {
      if (!draws) turn()
    },
  }
}

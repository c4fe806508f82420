import { useSyncExternalStore } from 'react'

/** The server's clock minus this one's, in milliseconds: a reader's clock may be wrong, and moments are the server's. */
let skew = 0
let now = Date.now()
const listeners = new Set<() => void>()
let timer: ReturnType<typeof setInterval> | undefined

/** Sets the page's clocks by the server's. */
export function setClock(serverNow: number) {
  skew = serverNow - Date.now()
  tick()
}

/** The present moment by the server's clock. */
export const serverNow = () => Date.now() + skew

function tick() {
  now = serverNow()
  listeners.forEach((listener) => listener())
}

function subscribe(listener: () => void) {
  listeners.add(listener)
  timer ??= setInterval(tick, 1000)
  return () => {
    listeners.delete(listener)
    if (listeners.size > 0) return
    clearInterval(timer)
    timer = undefined
  }
}

/** The present by the server's clock, renewed once a second for all who show it. */
export const useNow = () => useSyncExternalStore(subscribe, () => now)

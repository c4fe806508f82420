import { useSyncExternalStore } from 'react'

let now = Date.now()
const listeners = new Set<() => void>()
let timer: ReturnType<typeof setInterval> | undefined

function subscribe(listener: () => void) {
  listeners.add(listener)
  timer ??= setInterval(() => {
    now = Date.now()
    listeners.forEach((tick) => tick())
  }, 1000)
  return () => {
    listeners.delete(listener)
    if (listeners.size > 0) return
    clearInterval(timer)
    timer = undefined
  }
}

/** The present, renewed once a second for all who show it. */
export const useNow = () => useSyncExternalStore(subscribe, () => now)

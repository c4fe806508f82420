import { useEffect, useRef } from 'react'
import { nameOfKey, useKeymap, type KeyAct } from './keymap'

const typing = 'input:not([type=checkbox], [type=radio]), textarea, select, [contenteditable]'

/** Keys that are held for a second one, such as "g" and then the letter of a place; for so long, in milliseconds. */
const patience = 1500

/**
 * Single keys act only when no text field has the focus; Ctrl+Z undoes there what was typed.
 * @param places After the key of "go to", which letter goes where.
 */
export function useKeys(acts: Partial<Record<KeyAct, () => void>>, places: Record<string, () => void> = {}) {
  const held = useRef({ acts, places })
  useEffect(() => {
    held.current = { acts, places }
  })
  useEffect(() => {
    let goingUntil = 0
    const press = (event: KeyboardEvent) => {
      if (event.defaultPrevented) return
      if (event.target instanceof Element && event.target.matches(typing)) return
      const name = nameOfKey(event)
      if (name === null) return
      const { acts: now, places: there } = held.current
      const map = useKeymap.getState()
      if (performance.now() < goingUntil) {
        goingUntil = 0
        const go = there[name.toLowerCase()]
        if (go) {
          event.preventDefault()
          return go()
        }
      }
      if (name === map.goTo && Object.keys(there).length > 0) {
        goingUntil = performance.now() + patience
        return event.preventDefault()
      }
      const act = (Object.keys(now) as KeyAct[]).find((one) => map[one] === name)
      if (!act) return
      event.preventDefault()
      now[act]!()
    }
    document.addEventListener('keydown', press)
    return () => document.removeEventListener('keydown', press)
  }, [])
}

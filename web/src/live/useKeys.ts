import { useEffect, useRef } from 'react'

const typing = 'input:not([type=checkbox]), textarea, select, [contenteditable]'

/** Single keys act only when no text field has the focus; Ctrl+Z undoes there what was typed. */
export function useKeys(keys: Record<string, () => void>) {
  const held = useRef(keys)
  useEffect(() => {
    held.current = keys
  })
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.defaultPrevented || event.altKey || event.metaKey) return
      if (event.target instanceof Element && event.target.matches(typing)) return
      const name = event.ctrlKey ? `Ctrl+${event.key.toLowerCase()}` : event.key
      const act = held.current[name]
      if (!act) return
      event.preventDefault()
      act()
    }
    document.addEventListener('keydown', press)
    return () => document.removeEventListener('keydown', press)
  }, [])
}

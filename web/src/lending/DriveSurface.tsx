import { useEffect, useRef } from 'react'
import { useTranslation } from 'react-i18next'
import { wish } from '../live/connection'
import { Driving } from './driving'

/** Bits of a pointer's buttons, and how the agent counts them: the first, the second, the middle one. */
const buttonBits = [
  [1, 1],
  [2, 3],
  [4, 2],
] as const

/** Lies over a screen that one drives: what is done here is done there. */
export function DriveSurface({ exhibit, name }: { exhibit: number; name: string }) {
  const { t } = useTranslation()
  const surface = useRef<HTMLDivElement>(null)
  useEffect(() => {
    const element = surface.current!
    const driving = new Driving(exhibit)
    const ends = new AbortController()
    const on = <K extends keyof HTMLElementEventMap>(name: K, act: (event: HTMLElementEventMap[K]) => void, passive = false) =>
      element.addEventListener(
        name,
        (event) => {
          event.stopPropagation()
          if (!passive) event.preventDefault()
          act(event)
        },
        { signal: ends.signal, passive },
      )
    const move = (event: PointerEvent) => {
      const { left, top, width, height } = element.getBoundingClientRect()
      driving.move((event.clientX - left) / width, (event.clientY - top) / height)
    }
    // Of a pen or a finger, too; a second button beside the first is told as a movement.
    const press = (event: PointerEvent) => {
      move(event)
      for (const [bit, button] of buttonBits) driving.press(button, (event.buttons & bit) !== 0)
    }
    on('pointermove', press)
    on('pointerdown', (event) => {
      element.focus()
      element.setPointerCapture(event.pointerId)
      press(event)
    })
    on('pointerup', press)
    on('pointercancel', () => driving.release())
    on('dblclick', () => undefined)
    on('contextmenu', () => undefined)
    on('wheel', (event) => driving.turn(event.deltaX, event.deltaY))
    on('keydown', (event) => {
      if (event.key === 'Escape' && event.shiftKey) return void wish({ do: 'endLoan' })
      if (!event.repeat) driving.key(event.code, true)
    })
    on('keyup', (event) => driving.key(event.code, false))
    on('blur', () => driving.release(), true)
    element.focus()
    return () => {
      ends.abort()
      driving.release()
    }
  }, [exhibit])
  return (
    // Everything that is pressed is meant for the other screen; Shift+Escape gives it back.
    <div
      ref={surface}
      role="application"
      aria-label={t('lending.surface', { name })}
      // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex
      tabIndex={0}
      className="absolute inset-0 z-10 cursor-crosshair touch-none outline-2 -outline-offset-2 outline-moss"
    />
  )
}

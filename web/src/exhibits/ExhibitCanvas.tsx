import { useEffect, useLayoutEffect, useRef, useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { ExhibitRow } from '../contract.generated'
import { media } from '../media/engine'
import type { Size } from './look'

/** What the relay passes on of it, also to whoever shows it. */
export function ExhibitCanvas({ exhibit, canvas }: { exhibit: ExhibitRow; canvas?: React.RefObject<HTMLCanvasElement | null> }) {
  const { t } = useTranslation()
  const own = useRef<HTMLCanvasElement>(null)
  const shown = canvas ?? own
  const { by } = exhibit
  useEffect(() => (shown.current ? media.show(by, shown.current, 'screen') : undefined), [by, shown])
  return (
    <canvas
      ref={shown}
      role="img"
      aria-label={exhibit.title || t('exhibits.screenOf', { name: exhibit.byName })}
      className="block size-full object-contain"
    />
  )
}

/** What an element has room for, in pixels. */
export function usePlace(area: React.RefObject<HTMLElement | null>): Size {
  const [place, setPlace] = useState<Size>({ width: 0, height: 0 })
  useLayoutEffect(() => {
    const element = area.current
    if (!element) return
    const take = () => setPlace({ width: element.clientWidth, height: element.clientHeight })
    take()
    const watcher = new ResizeObserver(take)
    watcher.observe(element)
    return () => watcher.disconnect()
  }, [area])
  return place
}

/** Of a screen's picture, which changes when its owner's window does. */
export function useScreenSize(canvas: React.RefObject<HTMLCanvasElement | null>, wanted: boolean): Size {
  const [size, setSize] = useState<Size>({ width: 1280, height: 720 })
  useEffect(() => {
    if (!wanted) return
    const look = () => {
      const { width = 0, height = 0 } = canvas.current ?? {}
      if (width > 0 && height > 0) setSize((now) => (now.width === width && now.height === height ? now : { width, height }))
    }
    const timer = setInterval(look, 200)
    return () => clearInterval(timer)
  }, [canvas, wanted])
  return size
}

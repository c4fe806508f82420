import { useEffect, useRef, useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { ExhibitRow, Ruling } from '../contract.generated'
import { currentSitting } from '../live/connection'
import { matrix, type Size, type Standing } from './look'
import { fetchBeside, pagePicture, pageText } from './pages'

/** The page's own size, in pixels of its picture. */
export const sheetSize: Size = { width: 1600, height: 900 }

/** A page's picture as soon as it is there; the one before stays until then. */
export function usePage(exhibit: ExhibitRow, page: number, scale: number) {
  const [held, setHeld] = useState<{ picture: ImageBitmap; page: number; file: string; wide: boolean } | null>(null)
  const [failed, setFailed] = useState<string | null>(null)
  const { pages } = exhibit
  const file = pages?.file ?? null
  const there = file !== null && pages !== null && pages.count >= page
  const opens = page === pages?.at ? pages.opens : pages?.secret
  // From here on the usual picture would be blurred.
  const wide = scale * 1600 > 0 && scale > 1.3
  const wanted = `${file} ${page}`
  useEffect(() => {
    if (!there || !file) return
    let over = false
    const sitting = currentSitting()
    const load = async () => {
      const picture = await pagePicture(sitting, exhibit, page, 1600)
      if (over) return
      setHeld({ picture, page, file, wide: false })
      setFailed(null)
      fetchBeside(sitting, exhibit, page)
      if (!wide) return
      const sharp = await pagePicture(sitting, exhibit, page, 3200)
      if (!over) setHeld({ picture: sharp, page, file, wide: true })
    }
    load().catch(() => !over && setFailed(wanted))
    return () => {
      over = true
    }
    // The exhibit is another object with every change of it; what counts stands in the others.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [there, file, page, opens, wide])
  const own = held && held.file === file ? held : null
  return { picture: own?.picture ?? null, page: own?.page ?? null, failed: failed === wanted }
}

/** Paints a page, or a white sheet with its rulings, as it stands. */
export function PageCanvas({
  picture,
  stand,
  size,
  place,
  ruling,
  label,
}: {
  picture: ImageBitmap | null
  stand: Standing
  size: Size
  place: Size
  /** Of a sheet; null where there is a picture. */
  ruling: Ruling | null
  label: string
}) {
  const canvas = useRef<HTMLCanvasElement>(null)
  useEffect(() => {
    const to = canvas.current
    if (!to || place.width === 0 || (!picture && !ruling)) return
    const ratio = window.devicePixelRatio
    to.width = Math.round(place.width * ratio)
    to.height = Math.round(place.height * ratio)
    const context = to.getContext('2d')!
    const [a, b, c, d, e, f] = matrix(stand, size, size.width)
    context.setTransform(a * ratio, b * ratio, c * ratio, d * ratio, e * ratio, f * ratio)
    context.imageSmoothingQuality = 'high'
    if (picture) context.drawImage(picture, 0, 0, size.width, size.height)
    else paintSheet(context, size, ruling!)
  }, [picture, stand, size, place, ruling])
  return <canvas ref={canvas} role="img" aria-label={label} className="absolute inset-0 size-full" />
}

export function paintSheet(
  context: CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D,
  { width, height }: Size,
  ruling: Ruling,
) {
  context.fillStyle = '#ffffff'
  context.fillRect(0, 0, width, height)
  if (ruling === 'plain') return
  context.strokeStyle = '#c9d3d9'
  context.lineWidth = 1.5
  context.beginPath()
  const step = ruling === 'ruled' ? 60 : 50
  for (let y = step; y < height; y += step) {
    context.moveTo(0, y)
    context.lineTo(width, y)
  }
  if (ruling === 'squared')
    for (let x = step; x < width; x += step) {
      context.moveTo(x, 0)
      context.lineTo(x, height)
    }
  context.stroke()
}

/** What stands on the page, for those who have it read to them. */
export function PageText({ exhibit, page }: { exhibit: ExhibitRow; page: number }) {
  const { t } = useTranslation()
  const [held, setHeld] = useState<{ page: number; lines: readonly string[] } | null>(null)
  const there = (exhibit.pages?.count ?? 0) >= page && exhibit.pages?.file !== null
  const opens = page === exhibit.pages?.at ? exhibit.pages.opens : exhibit.pages?.secret
  useEffect(() => {
    if (!there) return
    let over = false
    pageText(currentSitting(), exhibit, page)
      .then((lines) => !over && setHeld({ page, lines: lines.map((line) => line.text) }))
      .catch(() => undefined)
    return () => {
      over = true
    }
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [there, page, opens, exhibit.pages?.file])
  if (!there) return null
  return (
    <div className="sr-only" data-page-text={held?.page === page ? page : undefined}>
      {/* That it was turned is told at once; what stands on it is read by whoever goes there. */}
      <p aria-live="polite">{t('exhibits.pageOf', { page, of: exhibit.pages?.count })}</p>
      {held?.page === page && held.lines.map((line, at) => <p key={at}>{line}</p>)}
    </div>
  )
}

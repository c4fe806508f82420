import { useEffect, useLayoutEffect, useRef } from 'react'
import type { Mark } from '../contract.generated'
import { matrix, type Size, type Standing } from '../exhibits/look'
import { useLive } from '../live/store'
import { movedPoints, type Own } from './doing'
import { units } from './line'
import { drawnOf, font, frameOf, paintMark, type Drawn } from './paint'
import { keptFor, strokes, watchStrokes, type Stroke } from './store'
import { useTools, widths } from './tools'

/** Baking takes so long at once, in milliseconds, so that the page goes on. */
const slice = 8
/** A pointer is shown so long behind, in milliseconds, and moves in between. */
const behind = 80

/** Bakes what is finished onto the lower canvas: what is new at once, all anew in slices when the page stands otherwise. */
export function useBaking(
  canvas: React.RefObject<HTMLCanvasElement | null>,
  onPage: readonly Mark[],
  stand: Standing,
  size: Size,
  place: Size,
  ratio: number,
) {
  const baked = useRef<{ key: string; marks: readonly Mark[] }>({ key: '', marks: [] })
  useLayoutEffect(() => {
    const to = canvas.current
    if (!to || place.width === 0) return
    const key = JSON.stringify([stand, size, place, ratio])
    const [wide, high] = [Math.round(place.width * ratio), Math.round(place.height * ratio)]
    const before = baked.current
    const grew = before.key === key && before.marks.every((mark, at) => onPage[at] === mark)
    const [a, b, c, d, e, f] = matrix(stand, size, units)
    const set = (context: CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D) =>
      context.setTransform(a * ratio, b * ratio, c * ratio, d * ratio, e * ratio, f * ratio)
    if (grew && to.width === wide && to.height === high) {
      const context = to.getContext('2d')!
      set(context)
      for (const mark of onPage.slice(before.marks.length)) paintMark(context, drawnOf(mark))
      baked.current = { key, marks: onPage }
      return
    }
    // Beside the canvas that is seen, which keeps what it shows until all is there.
    const aside = new OffscreenCanvas(Math.max(1, wide), Math.max(1, high))
    const context = aside.getContext('2d')!
    set(context)
    let [next, timer] = [0, 0]
    const bake = () => {
      const until = performance.now() + slice
      while (next < onPage.length && performance.now() < until) paintMark(context, drawnOf(onPage[next++]!))
      if (next < onPage.length) {
        timer = requestAnimationFrame(bake)
        return
      }
      to.width = wide
      to.height = high
      to.getContext('2d')!.drawImage(aside, 0, 0)
      baked.current = { key, marks: onPage }
    }
    bake()
    return () => cancelAnimationFrame(timer)
  }, [canvas, onPage, stand, size, place, ratio])
}

/** Paints what is being drawn, here and by others, and the pointers, for as long as there is anything. */
export function useLivePainting(
  canvas: React.RefObject<HTMLCanvasElement | null>,
  own: React.RefObject<Own | null>,
  exhibit: number,
  page: number,
  now: React.RefObject<{ onPage: readonly Mark[]; stand: Standing; size: Size }>,
  ratio: number,
) {
  const asked = useRef(0)
  const paint = useRef<() => void>(() => undefined)
  useEffect(() => {
    paint.current = () => {
      asked.current = 0
      const to = canvas.current
      if (!to) return
      const [wide, high] = [Math.round(to.clientWidth * ratio), Math.round(to.clientHeight * ratio)]
      if (to.width !== wide) to.width = wide
      if (to.height !== high) to.height = high
      const context = to.getContext('2d')!
      context.setTransform(1, 0, 0, 1, 0, 0)
      context.clearRect(0, 0, wide, high)
      const { stand, size } = now.current
      const [a, b, c, d, e, f] = matrix(stand, size, units)
      context.setTransform(a * ratio, b * ratio, c * ratio, d * ratio, e * ratio, f * ratio)
      const moment = performance.now()
      let goesOn = false
      for (const [key, stroke] of strokes) {
        if (moment - stroke.at > keptFor(stroke)) strokes.delete(key)
        else if (stroke.exhibit === exhibit && stroke.page === page) {
          goesOn = true
          if (stroke.shape === null) paintPointer(context, stroke, moment, nameOf(stroke.by), 1 / (Math.abs(a) + Math.abs(b)))
          else if (stroke.points.length >= 2) paintMark(context, { ...stroke, shape: stroke.shape, text: '' })
        }
      }
      const doing = own.current
      if (doing?.does === 'draw') {
        const { colour, width } = useTools.getState()
        paintMark(context, { shape: doing.shape, colour, width: widths[width], points: doing.points, text: '' })
      } else if (doing?.does === 'move') {
        const moving: Drawn = { ...drawnOf(doing.mark), points: movedPoints(doing) }
        paintMark(context, moving)
        const { left, top, right, bottom } = frameOf(moving)
        context.setLineDash([60, 60])
        context.lineWidth = 12
        context.strokeStyle = '#0072b2'
        context.strokeRect(left, top, right - left, bottom - top)
        context.setLineDash([])
      }
      if (goesOn) asked.current ||= requestAnimationFrame(paint.current)
    }
    const soon = () => void (asked.current ||= requestAnimationFrame(paint.current))
    soon()
    const stop = watchStrokes(soon)
    return () => {
      stop()
      cancelAnimationFrame(asked.current)
      asked.current = 0
    }
  }, [canvas, own, exhibit, page, now, ratio])
  return () => void (asked.current ||= requestAnimationFrame(() => paint.current()))
}

const nameOf = (seat: number) => useLive.getState().seats.get(seat)?.name ?? ''

/** A spot with the name of who points, between the last two places, fading when it stands still. */
function paintPointer(context: CanvasRenderingContext2D, stroke: Stroke, moment: number, name: string, pixel: number) {
  const way = Math.min(1, Math.max(0, (moment - stroke.at) / Math.max(1, Math.min(behind, stroke.at - stroke.before))))
  const [fx, fy, tx = fx!, ty = fy!] = stroke.points
  const [x, y] = [fx! + (tx - fx!) * way, fy! + (ty - fy!) * way]
  const size = 9 * pixel
  context.globalAlpha = Math.min(1, Math.max(0, (keptFor(stroke) - (moment - stroke.at)) / 1000))
  context.beginPath()
  context.arc(x, y, size, 0, 2 * Math.PI)
  context.fillStyle = '#d55e00'
  context.fill()
  context.lineWidth = 2.5 * pixel
  context.strokeStyle = '#ffffff'
  context.stroke()
  context.font = font(13 * pixel)
  context.textBaseline = 'middle'
  context.lineWidth = 4 * pixel
  context.strokeText(name, x + size * 1.6, y)
  context.fillText(name, x + size * 1.6, y)
  context.globalAlpha = 1
}

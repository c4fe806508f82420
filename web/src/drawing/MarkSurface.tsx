import { useLayoutEffect, useMemo, useRef, useState, type PointerEvent } from 'react'
import { useTranslation } from 'react-i18next'
import type { Mark, MarkShape } from '../contract.generated'
import { matrix, unitsAt, type Size, type Standing } from '../exhibits/look'
import { markWish, sendStroke } from '../live/connection'
import { useLive } from '../live/store'
import { grows, movedPoints, type Drawing, type Own } from './doing'
import { units, writeLine, type Points } from './line'
import { drawnOf, frameOf, isOn } from './paint'
import { useLayers } from './store'
import { useTools, widths } from './tools'
import { useBaking, useLivePainting } from './useCanvases'

interface Props {
  exhibit: number
  page: number
  stand: Standing
  /** Where it stands, and the page's own size, in pixels. */
  place: Size
  size: Size
  /** One is drawing here; otherwise the hand moves the page. */
  draws: boolean
  self: number
  /** May take away marks of others. */
  keeps: boolean
}

const none: ReadonlyMap<number, Mark> = new Map()

/** A piece of what is being drawn goes out at this beat, in milliseconds. */
const beat = 50
/** Points of one mark; a longer stroke goes on as another. */
const mostPoints = 2000
/** The hand need not be nearer than this, in pixels. */
const reach = 8

/**
 * The marks over an exhibit, on two canvases: what is finished is baked onto the lower one, and only what is being drawn is painted
 * anew in each frame.
 */
export function MarkSurface({ exhibit, page, stand, place, size, draws, self, keeps }: Props) {
  const { t } = useTranslation()
  const marks = useLayers((state) => state.layers.get(exhibit)?.marks) ?? none
  const onPage = useMemo(() => [...marks.values()].filter((mark) => mark.page === page), [marks, page])
  const base = useRef<HTMLCanvasElement>(null)
  const live = useRef<HTMLCanvasElement>(null)
  const own = useRef<Own | null>(null)
  const [writing, setWriting] = useState<{ x: number; y: number } | null>(null)
  const [whose, setWhose] = useState<{ x: number; y: number; by: number } | null>(null)
  const seats = useLive((state) => state.seats)
  const { tool, colour, width } = useTools()
  const ratio = window.devicePixelRatio
  const now = useRef({ onPage, stand, size })
  useLayoutEffect(() => {
    now.current = { onPage, stand, size }
  })
  useBaking(base, onPage, stand, size, place, ratio)
  const repaint = useLivePainting(live, own, exhibit, page, now, ratio)

  const at = (event: { clientX: number; clientY: number }): [number, number] => {
    const box = live.current!.getBoundingClientRect()
    return unitsAt(stand, size, units, event.clientX - box.left, event.clientY - box.top)
  }
  const within = (reach * units) / (stand.scale * size.width)
  const hit = (x: number, y: number, mine: boolean) =>
    onPage.findLast((mark) => (!mine || keeps || mark.by === self) && isOn(drawnOf(mark), x, y, within))

  const down = (event: PointerEvent) => {
    if (!draws || event.button !== 0) return
    event.stopPropagation()
    live.current!.setPointerCapture(event.pointerId)
    const [x, y] = at(event)
    if (tool === 'text') return void (writing ?? setWriting({ x, y }))
    if (tool === 'erase') {
      own.current = { does: 'erase', gone: new Set() }
      return eraseAt(x, y)
    }
    if (tool === 'move') {
      const mark = onPage.findLast((one) => one.by === self && isOn(drawnOf(one), x, y, within))
      if (!mark) return
      const frame = frameOf(drawnOf(mark))
      const stretches = mark.shape !== 'text' && Math.hypot(x - frame.right, y - frame.bottom) < within * 2
      own.current = { does: 'move', mark, from: [x, y], to: [x, y], stretches }
      return
    }
    if (tool === 'point') {
      own.current = { does: 'point' }
      return point(x, y)
    }
    own.current = { does: 'draw', shape: tool, points: [x, y], sent: 0, stroke: nextStroke++, later: null, over: false }
    repaint()
  }

  const move = (event: PointerEvent) => {
    const [x, y] = at(event)
    if (!draws || own.current === null) {
      if (draws && tool === 'point') point(x, y)
      const over = draws ? undefined : hit(x, y, false)
      const box = live.current!.getBoundingClientRect()
      setWhose(over ? { x: event.clientX - box.left, y: event.clientY - box.top, by: over.by } : null)
      return
    }
    event.stopPropagation()
    const doing = own.current
    if (doing.does === 'erase') eraseAt(x, y)
    else if (doing.does === 'point') point(x, y)
    else if (doing.does === 'move') {
      doing.to = [x, y]
      repaint()
    } else if (!doing.over) draw(doing, event, x, y)
  }

  function draw(doing: Drawing, event: PointerEvent, x: number, y: number) {
    if (grows(doing.shape)) {
      const all = event.nativeEvent.getCoalescedEvents?.() ?? []
      for (const one of all.length > 0 ? all : [event.nativeEvent]) {
        const [px, py] = at(one)
        const [lx, ly] = [doing.points.at(-2)!, doing.points.at(-1)!]
        // Nearer than a third of a pixel there is nothing to see.
        if (Math.hypot(px - lx, py - ly) > within / (reach * 3)) doing.points.push(px, py)
      }
    } else doing.points = [doing.points[0]!, doing.points[1]!, x, y]
    if (doing.points.length >= mostPoints * 2) finish(doing)
    else doing.later ??= setTimeout(() => send(doing), beat)
    repaint()
  }

  function send(doing: Drawing) {
    doing.later = null
    if (doing.over) return
    const points = grows(doing.shape) ? doing.points.slice(doing.sent) : doing.points
    doing.sent = doing.points.length
    if (points.length >= 2) stroke(doing.shape, points, doing.stroke)
  }

  const stroke = (shape: MarkShape | null, points: Points, number: number) =>
    sendStroke({ exhibit, page, stroke: number, shape, colour, width: widths[width], line: writeLine(points) })

  const point = (x: number, y: number) => {
    const since = performance.now()
    if (since - pointed < 40) return
    pointed = since
    stroke(null, [x, y], 0)
    spot.current = { x, y, at: since }
    repaint()
  }
  const spot = useRef<{ x: number; y: number; at: number } | null>(null)

  function eraseAt(x: number, y: number) {
    const doing = own.current
    if (doing?.does !== 'erase') return
    const mark = hit(x, y, true)
    if (!mark || doing.gone.has(mark.number)) return
    doing.gone.add(mark.number)
    void markWish(exhibit, { mark: 'erase', numbers: [mark.number] })
  }

  const up = () => {
    const doing = own.current
    if (doing === null) return
    if (doing.does === 'draw') return finish(doing)
    own.current = null
    if (doing.does === 'move') {
      const points = movedPoints(doing)
      if (doing.from[0] !== doing.to[0] || doing.from[1] !== doing.to[1])
        void markWish(exhibit, { mark: 'move', number: doing.mark.number, line: writeLine(points) })
    }
    repaint()
  }

  function finish(doing: Drawing) {
    if (doing.over) return
    doing.over = true
    if (doing.later) clearTimeout(doing.later)
    const points = grows(doing.shape) || doing.points.length === 4 ? doing.points : null
    const give = () => {
      if (own.current === doing) own.current = null
      repaint()
    }
    if (!points) {
      give()
      return
    }
    // It is seen as it was drawn until the server's own comes.
    void markWish(exhibit, {
      mark: 'draw',
      page,
      shape: doing.shape,
      colour,
      width: widths[width],
      line: writeLine(points),
      text: '',
    }).then((done) => {
      if (!done) stroke(doing.shape, [], doing.stroke)
      give()
    })
  }

  const commitText = (text: string) => {
    if (writing && text.trim() !== '')
      void markWish(exhibit, {
        mark: 'draw',
        page,
        shape: 'text',
        colour,
        width: widths[width],
        line: writeLine([writing.x, writing.y]),
        text,
      })
    setWriting(null)
  }

  const [a, b, c, d, e, f] = matrix(stand, size, units)
  return (
    <>
      <canvas ref={base} aria-hidden className="pointer-events-none absolute inset-0 size-full" />
      <canvas
        ref={live}
        data-marks={onPage.length}
        aria-label={t('marks.count', { count: onPage.length })}
        role="img"
        className={`absolute inset-0 size-full ${draws ? 'touch-none cursor-crosshair' : ''}`}
        // The press would take the focus from the field that it has just opened.
        onMouseDown={(event) => tool === 'text' && draws && event.preventDefault()}
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={up}
        onPointerCancel={up}
        onPointerLeave={() => setWhose(null)}
      />
      {whose && (
        <span
          className="pointer-events-none absolute z-10 border border-line bg-raised px-1.5 text-[0.75rem] font-semibold"
          style={{ left: whose.x + 12, top: whose.y + 12 }}
        >
          {t('marks.by', { name: seats.get(whose.by)?.name ?? t('marks.somebody') })}
        </span>
      )}
      {writing && (
        <textarea
          aria-label={t('marks.textHere')}
          // Somebody has just pointed to where it is to stand.
          // eslint-disable-next-line jsx-a11y/no-autofocus
          autoFocus
          maxLength={500}
          rows={2}
          className="absolute z-10 min-w-40 border border-felt bg-raised p-1 text-[0.875rem] font-semibold text-ink"
          style={{
            left: Math.max(0, Math.min(place.width - 180, a * writing.x + c * writing.y + e)),
            top: Math.max(0, Math.min(place.height - 60, b * writing.x + d * writing.y + f)),
          }}
          onBlur={(event) => commitText(event.target.value)}
          onKeyDown={(event) => {
            event.stopPropagation()
            if (event.key === 'Escape') setWriting(null)
            if (event.key === 'Enter' && !event.shiftKey) {
              event.preventDefault()
              commitText(event.currentTarget.value)
            }
          }}
        />
      )}
    </>
  )
}

let nextStroke = 1
let pointed = 0

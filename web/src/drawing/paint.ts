import type { Mark, MarkColour, MarkShape } from '../contract.generated'
import { readLine, type Points } from './line'

/** Told apart by people who see colours differently (Okabe and Ito, 2008). */
export const colours: Readonly<Record<MarkColour, string>> = {
  black: '#111111',
  vermilion: '#d55e00',
  blue: '#0072b2',
  green: '#009e73',
  orange: '#e69f00',
  white: '#ffffff',
}

export interface Drawn {
  shape: MarkShape
  colour: MarkColour
  /** In units of the page, as the points are. */
  width: number
  points: Points
  text: string
}

const read = new WeakMap<Mark, Drawn>()

export function drawnOf(mark: Mark): Drawn {
  const known = read.get(mark)
  if (known) return known
  const drawn = { ...mark, points: readLine(mark.line) }
  read.set(mark, drawn)
  return drawn
}

/** Height of a text's letters, in widths of its line. */
export const letters = 9

/** How the text stands, for the canvas and for saved files. */
export const font = (size: number) => `600 ${size}px 'Archivo Variable', sans-serif`

export function paintMark(to: CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D, mark: Drawn) {
  const { points, shape } = mark
  to.strokeStyle = to.fillStyle = colours[mark.colour]
  to.lineWidth = shape === 'highlighter' ? mark.width * 4 : mark.width
  to.globalAlpha = shape === 'highlighter' ? 0.38 : 1
  to.lineCap = shape === 'highlighter' ? 'butt' : 'round'
  to.lineJoin = 'round'
  const [x = 0, y = 0, toX = x, toY = y] = points
  to.beginPath()
  switch (shape) {
    case 'pen':
    case 'highlighter':
      curve(to, points)
      to.stroke()
      break
    case 'line':
    case 'arrow':
      to.moveTo(x, y)
      to.lineTo(toX, toY)
      if (shape === 'arrow') head(to, x, y, toX, toY, mark.width)
      to.stroke()
      break
    case 'box':
      to.rect(Math.min(x, toX), Math.min(y, toY), Math.abs(toX - x), Math.abs(toY - y))
      to.stroke()
      break
    case 'ellipse':
      to.ellipse((x + toX) / 2, (y + toY) / 2, Math.abs(toX - x) / 2, Math.abs(toY - y) / 2, 0, 0, 2 * Math.PI)
      to.stroke()
      break
    case 'text': {
      const size = mark.width * letters
      to.font = font(size)
      to.textBaseline = 'top'
      mark.text.split('\n').forEach((line, at) => to.fillText(line, x, y + at * size * 1.25))
    }
  }
  to.globalAlpha = 1
}

/** Through the middles between the points, each point pulling the curve: smooth without leaving them. */
function curve(to: CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D, points: Points) {
  to.moveTo(points[0]!, points[1]!)
  if (points.length === 2) to.lineTo(points[0]! + 0.1, points[1]!)
  for (let at = 2; at + 3 < points.length; at += 2)
    to.quadraticCurveTo(
      points[at]!,
      points[at + 1]!,
      (points[at]! + points[at + 2]!) / 2,
      (points[at + 1]! + points[at + 3]!) / 2,
    )
  if (points.length > 2) to.lineTo(points[points.length - 2]!, points[points.length - 1]!)
}

function head(
  to: CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D,
  x: number,
  y: number,
  toX: number,
  toY: number,
  width: number,
) {
  const size = Math.min(width * 5, Math.hypot(toX - x, toY - y) / 2)
  const turn = Math.atan2(toY - y, toX - x)
  for (const side of [-0.5, 0.5]) {
    to.moveTo(toX, toY)
    to.lineTo(toX - size * Math.cos(turn + side), toY - size * Math.sin(turn + side))
  }
}

export interface Frame {
  left: number
  top: number
  right: number
  bottom: number
}

/** What a mark takes up on the page, its line's width left out. */
export function frameOf(mark: Drawn): Frame {
  const frame = { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity }
  for (let at = 0; at + 1 < mark.points.length; at += 2) {
    frame.left = Math.min(frame.left, mark.points[at]!)
    frame.right = Math.max(frame.right, mark.points[at]!)
    frame.top = Math.min(frame.top, mark.points[at + 1]!)
    frame.bottom = Math.max(frame.bottom, mark.points[at + 1]!)
  }
  if (mark.shape === 'text') {
    const size = mark.width * letters
    const lines = mark.text.split('\n')
    frame.right = frame.left + Math.max(...lines.map((line) => line.length)) * size * 0.55
    frame.bottom = frame.top + lines.length * size * 1.25
  }
  return frame
}

/** Whether a place on the page is on a mark, within a distance. */
export function isOn(mark: Drawn, x: number, y: number, within: number): boolean {
  const frame = frameOf(mark)
  const near = within + (mark.shape === 'highlighter' ? mark.width * 2 : mark.width / 2)
  if (x < frame.left - near || x > frame.right + near || y < frame.top - near || y > frame.bottom + near) return false
  const { left, top, right, bottom } = frame
  switch (mark.shape) {
    case 'text':
      return true
    case 'box':
      return isOnLine([left, top, right, top, right, bottom, left, bottom, left, top], x, y, near)
    case 'ellipse': {
      const [wide, high] = [Math.max(1, (right - left) / 2), Math.max(1, (bottom - top) / 2)]
      const far = Math.hypot((x - (left + right) / 2) / wide, (y - (top + bottom) / 2) / high)
      return Math.abs(far - 1) * Math.min(wide, high) < near
    }
    default:
      return isOnLine(mark.points, x, y, near)
  }
}

function isOnLine(points: Points, x: number, y: number, near: number): boolean {
  if (points.length === 2) return Math.hypot(points[0]! - x, points[1]! - y) < near
  for (let at = 0; at + 3 < points.length; at += 2) {
    const [ax, ay, bx, by] = [points[at]!, points[at + 1]!, points[at + 2]!, points[at + 3]!]
    const length = (bx - ax) ** 2 + (by - ay) ** 2
    const along = length === 0 ? 0 : Math.max(0, Math.min(1, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / length))
    if (Math.hypot(ax + along * (bx - ax) - x, ay + along * (by - ay) - y) < near) return true
  }
  return false
}

import type { ExhibitRow, Mark } from '../contract.generated'
import { paintSheet } from '../exhibits/PageCanvas'
import type { Size } from '../exhibits/look'
import { units } from './line'
import { colours, drawnOf, letters, paintMark } from './paint'
import { useLayers } from './store'
import { saveFile } from '../ui/saveFile'

const marksOn = (exhibit: ExhibitRow, page: number): Mark[] =>
  [...(useLayers.getState().layers.get(exhibit.number)?.marks.values() ?? [])].filter((mark) => mark.page === page)

/** What is shown, with its marks, as a PNG, as wide as its picture. */
async function pngOf(exhibit: ExhibitRow, size: Size, picture: CanvasImageSource | null, marks: readonly Mark[]) {
  const canvas = new OffscreenCanvas(Math.round(size.width), Math.round(size.height))
  const context = canvas.getContext('2d')!
  if (picture) context.drawImage(picture, 0, 0, canvas.width, canvas.height)
  else paintSheet(context, size, exhibit.pages?.ruling ?? 'plain')
  context.setTransform(size.width / units, 0, 0, size.width / units, 0, 0)
  for (const mark of marks) paintMark(context, drawnOf(mark))
  return canvas.convertToBlob({ type: 'image/png' })
}

export async function savePicture(exhibit: ExhibitRow, page: number, size: Size, picture: CanvasImageSource | null) {
  const name = `${exhibit.letter} ${exhibit.title}`.trim().replace(/[\\/:*?"<>|]/g, ' ')
  const called = exhibit.pages && exhibit.pages.count > 1 ? `${name} ${page}` : name
  saveFile(await pngOf(exhibit, size, picture, marksOn(exhibit, page)), `${called}.png`)
}

/** The page with its marks as an SVG: the page as a picture, the marks as lines that can be changed elsewhere. */
export async function saveDrawing(exhibit: ExhibitRow, page: number, size: Size, picture: CanvasImageSource | null) {
  const under = await pngOf(exhibit, size, picture, [])
  const data = await new Promise<string>((done) => {
    const reader = new FileReader()
    reader.onload = () => done(reader.result as string)
    reader.readAsDataURL(under)
  })
  const height = (units * size.height) / size.width
  const body = marksOn(exhibit, page).map(svgOf).join('\n  ')
  const text = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${units} ${height}" width="${size.width}" height="${size.height}">
  <image href="${data}" width="${units}" height="${height}" preserveAspectRatio="none"/>
  ${body}
</svg>
`
  saveFile(new Blob([text], { type: 'image/svg+xml' }), `${exhibit.letter} ${exhibit.title} ${page}.svg`)
}

function svgOf(mark: Mark): string {
  const { points, shape, width } = drawnOf(mark)
  const [x = 0, y = 0, toX = x, toY = y] = points
  const colour = colours[mark.colour]
  const line = `fill="none" stroke="${colour}" stroke-linecap="round" stroke-linejoin="round" stroke-width="${width}"`
  switch (shape) {
    case 'box':
      return `<rect x="${Math.min(x, toX)}" y="${Math.min(y, toY)}" width="${Math.abs(toX - x)}" height="${Math.abs(toY - y)}" ${line}/>`
    case 'ellipse':
      return `<ellipse cx="${(x + toX) / 2}" cy="${(y + toY) / 2}" rx="${Math.abs(toX - x) / 2}" ry="${Math.abs(toY - y) / 2}" ${line}/>`
    case 'text':
      return mark.text
        .split('\n')
        .map((one, at) => {
          const size = width * letters
          const looks = `font-family="sans-serif" font-weight="600" font-size="${size}" fill="${colour}"`
          return `<text x="${x}" y="${y + size * (0.8 + at * 1.25)}" ${looks}>${escape(one)}</text>`
        })
        .join('')
    case 'highlighter':
      return `<polyline points="${pairs(points)}" fill="none" stroke="${colour}" stroke-opacity="0.38" stroke-width="${width * 4}"/>`
    case 'arrow': {
      const size = Math.min(width * 5, Math.hypot(toX - x, toY - y) / 2)
      const turn = Math.atan2(toY - y, toX - x)
      const end = (side: number) => `${toX - size * Math.cos(turn + side)},${toY - size * Math.sin(turn + side)}`
      return `<polyline points="${pairs(points)}" ${line}/><polyline points="${end(-0.5)} ${toX},${toY} ${end(0.5)}" ${line}/>`
    }
    default:
      return `<polyline points="${pairs(points)}" ${line}/>`
  }
}

const pairs = (points: readonly number[]) =>
  points.reduce((text, value, at) => `${text}${at === 0 ? '' : at % 2 === 0 ? ' ' : ','}${value}`, '')

const escape = (text: string) => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;')

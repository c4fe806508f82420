export const filmSize = { width: 1280, height: 720 }

interface Box {
  left: number
  top: number
  width: number
  height: number
}

/** Draws all that stands on the stage, at its place. */
export function drawFilm(stage: HTMLElement, to: OffscreenCanvasRenderingContext2D, names: boolean) {
  to.fillStyle = '#1b2330'
  to.fillRect(0, 0, filmSize.width, filmSize.height)
  for (const place of stage.querySelectorAll<HTMLElement>('[data-film]')) {
    const box = JSON.parse(place.dataset['film']!) as Box
    const fills = place.dataset['fills'] !== undefined
    to.fillStyle = fills ? '#cfccc0' : '#1b2330'
    to.fillRect(box.left, box.top, box.width, box.height)
    const pictures = [...place.querySelectorAll<HTMLCanvasElement | HTMLVideoElement>('canvas, video')].filter(isThere)
    if (pictures.length === 0) center(to, place.dataset['initials'] ?? '', box)
    for (const picture of pictures) paint(to, picture, box, fills)
    if (names && place.dataset['name']) nameOf(to, place.dataset['name'], box)
  }
}

const sizeOf = (picture: HTMLCanvasElement | HTMLVideoElement) =>
  picture instanceof HTMLVideoElement ? [picture.videoWidth, picture.videoHeight] : [picture.width, picture.height]

const isThere = (picture: HTMLCanvasElement | HTMLVideoElement) =>
  picture instanceof HTMLVideoElement ? picture.videoWidth > 0 && picture.readyState >= 2 : picture.width > 0 && !isBlank(picture)

/** A canvas that was never painted has the size that browsers give it. */
const isBlank = (canvas: HTMLCanvasElement) => canvas.width === 300 && canvas.height === 150

/** People fill their place, exhibits are whole. */
function paint(to: OffscreenCanvasRenderingContext2D, picture: HTMLCanvasElement | HTMLVideoElement, box: Box, fills: boolean) {
  const [width, height] = sizeOf(picture) as [number, number]
  const scale = (fills ? Math.max : Math.min)(box.width / width, box.height / height)
  const [wide, high] = [width * scale, height * scale]
  to.save()
  to.beginPath()
  to.rect(box.left, box.top, box.width, box.height)
  to.clip()
  to.drawImage(picture, box.left + (box.width - wide) / 2, box.top + (box.height - high) / 2, wide, high)
  to.restore()
}

function center(to: OffscreenCanvasRenderingContext2D, text: string, box: Box) {
  to.fillStyle = '#1b2330'
  to.font = `600 ${Math.round(box.height * 0.3)}px Georgia, serif`
  to.textAlign = 'center'
  to.textBaseline = 'middle'
  to.fillText(text, box.left + box.width / 2, box.top + box.height / 2)
}

function nameOf(to: OffscreenCanvasRenderingContext2D, name: string, box: Box) {
  to.font = '600 18px Arial, sans-serif'
  to.textAlign = 'left'
  to.textBaseline = 'middle'
  const width = Math.min(to.measureText(name).width + 16, box.width)
  to.fillStyle = '#173f3f'
  to.fillRect(box.left, box.top + box.height - 28, width, 28)
  to.fillStyle = '#eaf1ec'
  to.fillText(name, box.left + 8, box.top + box.height - 14, width - 16)
}

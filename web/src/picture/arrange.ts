export interface Tile {
  x: number
  y: number
  width: number
  height: number
}

/** Shape of a camera picture, width by height. */
const shape = 16 / 9

/** How wide a picture of that shape is in a tile. */
const pictureWidth = (tile: Tile, caption: number) => Math.min(tile.width, Math.floor((tile.height - caption) * shape))

// A second way of reckoning it stands in the core's tests; tests/vectors/picture.json holds both.

export function even(count: number, width: number, height: number, gap: number, caption: number): Tile[] {
  if (count <= 0 || width <= 0 || height <= 0) return []
  let columns = 1
  let best = 0
  for (let tried = 1; tried <= count; tried++) {
    const rows = Math.ceil(count / tried)
    const across = Math.trunc((width - gap * (tried - 1)) / tried)
    const down = Math.trunc((height - gap * (rows - 1)) / rows) - caption
    const size = Math.min(across, Math.floor(down * shape))
    if (size > best) [columns, best] = [tried, size]
  }
  const tileHeight = Math.floor(best / shape) + caption
  const rows = Math.ceil(count / columns)
  const top = Math.trunc((height - rows * tileHeight - (rows - 1) * gap) / 2)
  return Array.from({ length: count }, (_, i) => {
    const row = Math.floor(i / columns)
    const inRow = row === rows - 1 ? count - row * columns : columns
    const left = Math.trunc((width - inRow * best - (inRow - 1) * gap) / 2)
    return { x: left + (i % columns) * (best + gap), y: top + row * (tileHeight + gap), width: best, height: tileHeight }
  })
}

/**
 * One large tile, and the others in a row below it or in a column beside it, whichever leaves the larger picture;
 * those that find no room are left out.
 */
export function lead(
  count: number,
  width: number,
  height: number,
  gap: number,
  caption: number,
  least: number,
  most = width / 5,
): Tile[] {
  if (count <= 0 || width <= 0 || height <= 0) return []
  if (count === 1) return [{ x: 0, y: 0, width, height }]
  const below = leadAboveRow(count, width, height, gap, caption, least, most)
  const beside = leadBesideColumn(count, width, height, gap, caption, least)
  return pictureWidth(beside[0]!, caption) > pictureWidth(below[0]!, caption) ? beside : below
}

/**
 * Some large tiles, as large as they can be beside each other, and the others in a row below.
 *
 * @param most how wide those in the row may be
 */
export function front(
  count: number,
  large: number,
  width: number,
  height: number,
  gap: number,
  caption: number,
  least: number,
  most = width / 5,
): Tile[] {
  if (count <= 0 || width <= 0 || height <= 0) return []
  if (count <= large) return even(count, width, height, gap, caption)
  if (large <= 1) return lead(count, width, height, gap, caption, least, most)
  const [top, ...row] = leadAboveRow(count - large + 1, width, height, gap, caption, least, most)
  return [...even(large, top!.width, top!.height, gap, caption), ...row]
}

/** How much of the width, or of the height, people have who stand large beside what is shown. */
const share = 0.26
const shareBelow = 0.36

/**
 * What is shown, and people beside it or below it, whichever leaves the larger picture of what is shown: some people large, the others
 * small after them; those that find no room are left out.
 *
 * @param exhibits how many things are shown, 1 or more
 * @param large how many people are large; 0 gives all of them the same size, and half of the room
 */
export function beside(
  exhibits: number,
  count: number,
  large: number,
  width: number,
  height: number,
  gap: number,
  caption: number,
  least: number,
): [Tile[], Tile[]] {
  if (exhibits <= 0 || width <= 0 || height <= 0) return [[], []]
  const shown = (across: number, down: number) =>
    exhibits === 1 ? [{ x: 0, y: 0, width: across, height: down }] : even(exhibits, across, down, gap, caption)
  if (count <= 0) return [shown(width, height), []]
  const first = Math.min(large, count)
  const across = Math.trunc(width * (large > 0 ? share : 0.5))
  const down = Math.trunc(height * (large > 0 ? shareBelow : 0.5))
  const [atLeft, onTop] = [shown(width - across - gap, height), shown(width, height - down - gap)]
  const isBeside = pictureWidth(atLeft[0]!, caption) >= pictureWidth(onTop[0]!, caption)
  const room = isBeside ? { x: width - across, y: 0, width: across, height } : { x: 0, y: height - down, width, height: down }
  if (large === 0)
    return [
      isBeside ? atLeft : onTop,
      even(count, room.width, room.height, gap, caption).map((tile) => ({ ...tile, x: tile.x + room.x, y: tile.y + room.y })),
    ]
  return isBeside
    ? [atLeft, inColumn(count, first, room, gap, caption, least)]
    : [onTop, inBand(count, first, room, gap, caption, least)]
}

/** The first ones as wide as the column, the others two in a row below them. */
function inColumn(count: number, first: number, { x, width, height }: Tile, gap: number, caption: number, least: number): Tile[] {
  const tall = Math.min(Math.floor(width / shape) + caption, Math.trunc((height - gap * (first - 1)) / first))
  const people = Array.from({ length: first }, (_, i) => ({ x, y: i * (tall + gap), width, height: tall }))
  const half = Math.trunc((width - gap) / 2)
  const [columns, small] = half >= least ? [2, half] : [1, width]
  return [...people, ...inRows(count - first, columns, { x, y: first * (tall + gap), width: small, height }, gap, caption)]
}

/** The first ones as high as the band, the others in rows beside them. */
function inBand(count: number, first: number, { y, width, height }: Tile, gap: number, caption: number, least: number): Tile[] {
  const most = count > first ? first + 1 : first
  const across = Math.min(Math.max(1, Math.floor((height - caption) * shape)), Math.trunc((width - gap * (most - 1)) / most))
  const people = Array.from({ length: first }, (_, i) => ({ x: i * (across + gap), y, width: across, height }))
  const x = first * (across + gap)
  const columns = Math.max(1, Math.trunc((width - x + gap) / (least + gap)))
  const small = Math.trunc((width - x - gap * (columns - 1)) / columns)
  if (small <= 0) return people
  return [
    ...people,
    ...inRows(count - first, columns, { x, y, width: Math.min(small, across), height: y + height }, gap, caption),
  ]
}

/** Small ones of one width, in rows down to a height. */
function inRows(count: number, columns: number, { x, y, width, height }: Tile, gap: number, caption: number): Tile[] {
  const low = Math.floor(width / shape) + caption
  const rows = Math.max(0, Math.trunc((height - y + gap) / (low + gap)))
  return Array.from({ length: Math.min(count, rows * columns) }, (_, i) => ({
    x: x + (i % columns) * (width + gap),
    y: y + Math.floor(i / columns) * (low + gap),
    width,
    height: low,
  }))
}

function leadAboveRow(
  count: number,
  width: number,
  height: number,
  gap: number,
  caption: number,
  least: number,
  most: number,
): Tile[] {
  const shown = Math.min(Math.max(Math.trunc((width + gap) / (least + gap)), 1), count - 1)
  const across = Math.min(Math.trunc((width - gap * (shown - 1)) / shown), Math.trunc(most))
  const rowHeight = Math.min(Math.floor(across / shape) + caption, Math.trunc(height / 2))
  const left = Math.trunc((width - shown * across - (shown - 1) * gap) / 2)
  const row = Array.from({ length: shown }, (_, i) => ({
    x: left + i * (across + gap),
    y: height - rowHeight,
    width: across,
    height: rowHeight,
  }))
  return [{ x: 0, y: 0, width, height: height - rowHeight - gap }, ...row]
}

function leadBesideColumn(count: number, width: number, height: number, gap: number, caption: number, least: number): Tile[] {
  const shown = Math.min(Math.max(Math.trunc((height + gap) / (Math.floor(least / shape) + caption + gap)), 1), count - 1)
  const down = Math.trunc((height - gap * (shown - 1)) / shown)
  const across = Math.max(Math.min(Math.floor((down - caption) * shape), Math.trunc(width / 5)), 0)
  const tileHeight = Math.min(Math.floor(across / shape) + caption, down)
  const column = Array.from({ length: shown }, (_, i) => ({
    x: width - across,
    y: i * (tileHeight + gap),
    width: across,
    height: tileHeight,
  }))
  return [{ x: 0, y: 0, width: width - across - gap, height }, ...column]
}

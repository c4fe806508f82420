// Points as the server keeps them: each as its distance from the one before, in units of a 16,384th of the page's width on both axes,
// zigzag and in groups of seven bits, in base64url (Core/Drawing/Mark.cs).

/** Of a page's width. */
export const units = 16_384

/** x, y, x, y … */
export type Points = readonly number[]

export function writeLine(points: Points): string {
  const bytes: number[] = []
  let [x, y] = [0, 0]
  const put = (value: number) => {
    let left = ((value << 1) ^ (value >> 31)) >>> 0
    for (; left >= 0x80; left >>>= 7) bytes.push((left & 0x7f) | 0x80)
    bytes.push(left)
  }
  for (let at = 0; at + 1 < points.length; at += 2) {
    const [px, py] = [Math.round(points[at]!), Math.round(points[at + 1]!)]
    put(px - x)
    put(py - y)
    ;[x, y] = [px, py]
  }
  return btoa(String.fromCharCode(...bytes))
    .replaceAll('+', '-')
    .replaceAll('/', '_')
    .replaceAll('=', '')
}

export function readLine(line: string): number[] {
  const bytes = atob(line.replaceAll('-', '+').replaceAll('_', '/'))
  const points: number[] = []
  let [x, y, at] = [0, 0, 0]
  const next = () => {
    let value = 0
    for (let shift = 0; at < bytes.length; shift += 7) {
      const byte = bytes.charCodeAt(at++)
      value |= (byte & 0x7f) << shift
      if (byte < 0x80) break
    }
    return (value >>> 1) ^ -(value & 1)
  }
  while (at < bytes.length) {
    x += next()
    y += next()
    points.push(x, y)
  }
  return points
}

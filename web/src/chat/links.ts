export type Piece = { text: string; href?: string }

const address = /https?:\/\/[^\s<>"]+/gi
const trailing = /[.,;:!?)\]}'’]+$/

/** A text cut into plain pieces and web addresses. Only http and https become links; the sentence's own signs stay outside. */
export function piecesOf(text: string): Piece[] {
  const pieces: Piece[] = []
  let at = 0
  for (const match of text.matchAll(address)) {
    let found = match[0]
    const signs = trailing.exec(found)?.[0] ?? ''
    // A bracket that the address itself opened belongs to it.
    const keeps = signs.startsWith(')') && found.slice(0, -signs.length).includes('(') ? 1 : 0
    if (signs.length > keeps) found = found.slice(0, found.length - signs.length + keeps)
    if (!URL.canParse(found)) continue
    if (match.index > at) pieces.push({ text: text.slice(at, match.index) })
    pieces.push({ text: found, href: new URL(found).href })
    at = match.index + found.length
  }
  if (at < text.length) pieces.push({ text: text.slice(at) })
  return pieces
}

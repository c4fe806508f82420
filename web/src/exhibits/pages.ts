import type { ExhibitRow } from '../contract.generated'

// Pages come sealed (AES-GCM, 12 bytes of nonce first), so that the next one can be fetched before it is turned to. The key of the page
// that all see comes with the exhibit; who may look ahead has the secret from which all keys are made (Core/Exhibits/Pages.cs).

/** Width of a page's picture, in pixels: in a line of small ones, for all, looked at closely; 0 is the page's text. */
export type PageWidth = 0 | 160 | 1600 | 3200

export interface TextLine {
  x: number
  y: number
  text: string
}

const bytesOf = (text: string) =>
  Uint8Array.from(atob(text.replaceAll('-', '+').replaceAll('_', '/')), (letter) => letter.charCodeAt(0))

async function keyOf({ pages }: ExhibitRow, page: number): Promise<CryptoKey | null> {
  if (!pages) return null
  let raw: Uint8Array<ArrayBuffer>
  if (page === pages.at) raw = bytesOf(pages.opens)
  else if (pages.secret === null) return null
  else {
    const secret = await crypto.subtle.importKey('raw', bytesOf(pages.secret), { name: 'HMAC', hash: 'SHA-256' }, false, ['sign'])
    const number = new DataView(new ArrayBuffer(4))
    number.setInt32(0, page)
    raw = new Uint8Array(await crypto.subtle.sign('HMAC', secret, number)).slice(0, 16)
  }
  return crypto.subtle.importKey('raw', raw, 'AES-GCM', false, ['decrypt'])
}

/** Newest last; so many sealed pages and so many open ones are held. */
const mostSealed = 24
const mostOpen = 6

function keepNewest<T>(kept: Map<string, T>, key: string, value: T, most: number, drop?: (value: T) => void) {
  kept.delete(key)
  kept.set(key, value)
  for (const [oldest, held] of kept) {
    if (kept.size <= most) break
    kept.delete(oldest)
    drop?.(held)
  }
}

const sealed = new Map<string, Promise<ArrayBuffer>>()
const open = new Map<string, Promise<ImageBitmap>>()

const nameOf = (exhibit: ExhibitRow, page: number, width: PageWidth) => `${exhibit.pages?.file} ${page} ${width}`

function fetchSealed(sitting: string, exhibit: ExhibitRow, page: number, width: PageWidth): Promise<ArrayBuffer> {
  const name = nameOf(exhibit, page, width)
  const held = sealed.get(name)
  if (held) return held
  const coming = fetch(
    `/api/sittings/${sitting}/exhibits/${exhibit.number}/pages/${page}/${width}?f=${exhibit.pages?.file ?? ''}`,
  ).then((answer) => {
    if (!answer.ok) throw new Error(`${answer.status}`)
    return answer.arrayBuffer()
  })
  coming.catch(() => sealed.delete(name))
  keepNewest(sealed, name, coming, mostSealed)
  return coming
}

async function unseal(sitting: string, exhibit: ExhibitRow, page: number, width: PageWidth): Promise<ArrayBuffer> {
  const [bytes, key] = await Promise.all([fetchSealed(sitting, exhibit, page, width), keyOf(exhibit, page)])
  if (!key) throw new Error('sealed')
  return crypto.subtle.decrypt({ name: 'AES-GCM', iv: bytes.slice(0, 12) }, key, bytes.slice(12))
}

/** A page's picture. Rejects when it cannot be made or may not be seen. */
export function pagePicture(sitting: string, exhibit: ExhibitRow, page: number, width: PageWidth): Promise<ImageBitmap> {
  const name = nameOf(exhibit, page, width)
  const held = open.get(name)
  if (held) return held
  const coming = unseal(sitting, exhibit, page, width).then((bytes) =>
    createImageBitmap(new Blob([bytes], { type: 'image/webp' })),
  )
  coming.catch(() => open.delete(name))
  keepNewest(open, name, coming, mostOpen)
  return coming
}

/** A small one, for a line of pages. */
export const smallPicture = async (sitting: string, exhibit: ExhibitRow, page: number) =>
  URL.createObjectURL(new Blob([await unseal(sitting, exhibit, page, 160)], { type: 'image/webp' }))

export const pageText = async (sitting: string, exhibit: ExhibitRow, page: number) =>
  JSON.parse(new TextDecoder().decode(await unseal(sitting, exhibit, page, 0))) as TextLine[]

/** Fetches the pages beside, sealed as they are, so that they are there when they are turned to. */
export function fetchBeside(sitting: string, exhibit: ExhibitRow, page: number) {
  const count = exhibit.pages?.count ?? 0
  for (const beside of [page + 1, page - 1, page + 2])
    if (beside >= 1 && beside <= count) void fetchSealed(sitting, exhibit, beside, 1600).catch(() => undefined)
}

import { t } from 'i18next'
import { create } from 'zustand'
import { exhibits, Refused } from '../api/client'
import { currentSitting } from '../live/connection'
import { tell } from '../live/store'

export type SentFor = 'shelf' | 'handout'

/** A file on its way to the server. */
export interface Bringing {
  id: number
  name: string
  /** To be put on the shelf, or to be handed out. */
  for: SentFor
  /** 0 to 1. */
  came: number
  /** Why it goes no further; null while it does. */
  failed: string | null
  stop: () => void
}

export const useBringing = create<{ files: readonly Bringing[] }>(() => ({ files: [] }))

let last = 0

const set = (id: number, change: Partial<Bringing> | null) =>
  useBringing.setState(({ files }) => ({
    files:
      change === null
        ? files.filter((file) => file.id !== id)
        : files.map((file) => (file.id === id ? { ...file, ...change } : file)),
  }))

/** What the server takes; others are handed out as files, and not shown. */
export const shownKinds = '.pdf,.png,.jpg,.jpeg,.webp,.gif,.svg,.pptx,.odp,.docx,.odt,.xlsx,.ods,.txt,.md,.csv'

/** Sends a file, and puts it on the shelf when all of it is there. */
export async function bringFile(file: File) {
  const sitting = currentSitting()
  await sendFile(file, 'shelf', (sent) => exhibits.bring(sitting, { file: sent, paper: null }))
}

/**
 * Sends a file piece by piece. A broken connection is taken up again by itself.
 *
 * @param then what is to be done with it, under its id, when all of it is there
 */
export async function sendFile(chosen: File, use: SentFor, then: (file: string) => Promise<unknown>) {
  const sitting = currentSitting()
  const id = ++last
  useBringing.setState(({ files }) => ({
    files: [...files, { id, name: chosen.name, for: use, came: 0, failed: null, stop: () => set(id, null) }],
  }))
  try {
    const file = use === 'shelf' ? await asPicture(chosen) : chosen
    const address = await send(id, sitting, file, use)
    await then(address.slice(address.lastIndexOf('/') + 1))
    set(id, null)
  } catch (failure) {
    set(id, { failed: failure instanceof Error && failure.message ? failure.message : t('reason.serverFailed') })
  }
}

export async function bringPaper(paper: number) {
  try {
    await exhibits.bring(currentSitting(), { file: null, paper })
  } catch (failure) {
    tell(failure instanceof Refused ? failure.message : t('reason.offline'), 'refusal')
  }
}

async function send(id: number, sitting: string, file: File, use: SentFor): Promise<string> {
  const [{ Upload, DetailedError }, token] = await Promise.all([import('tus-js-client'), exhibits.token()])
  return new Promise((done, fail) => {
    const upload = new Upload(file, {
      endpoint: exhibits.filesAddress(sitting),
      headers: { 'x-csrf': token },
      metadata: { filename: file.name, for: use },
      chunkSize: 4_000_000,
      retryDelays: [500, 1000, 2000, 4000, 8000, 15000],
      // What may not be is not tried again.
      onShouldRetry: (error) => {
        const status = error.originalResponse?.getStatus() ?? 0
        return status === 0 || status === 409 || (status >= 500 && status !== 507)
      },
      onProgress: (came, of) => set(id, { came: came / Math.max(1, of) }),
      onSuccess: () => done(upload.url ?? ''),
      onError: (error) => {
        const body = error instanceof DetailedError ? error.originalResponse?.getBody() : undefined
        fail(new Error(sentenceOf(body)))
      },
    })
    set(id, {
      stop: () => {
        void upload.abort(true).catch(() => undefined)
        set(id, null)
      },
    })
    upload.start()
  })
}

function sentenceOf(body: string | undefined): string {
  try {
    const { reason, largest } = JSON.parse(body ?? '') as { reason: string; largest?: number }
    return reason === 'tooLarge' && largest
      ? t('exhibits.tooLarge', { size: Math.round(largest / 1_000_000) })
      : t(`reason.${reason}`, { host: '' })
  } catch {
    return t('reason.offline')
  }
}

/** A drawing of lines is made a picture here, where the browser keeps its scripts and addresses from doing anything. */
async function asPicture(file: File): Promise<File> {
  if (!file.name.toLowerCase().endsWith('.svg')) return file
  const address = URL.createObjectURL(new Blob([await file.arrayBuffer()], { type: 'image/svg+xml' }))
  try {
    const image = new Image()
    image.src = address
    await image.decode().catch(() => {
      throw new Error(t('exhibits.flaw.broken'))
    })
    const width = 3200
    const height = Math.max(1, Math.min(4000, Math.round((width * (image.naturalHeight || 900)) / (image.naturalWidth || 1600))))
    const canvas = Object.assign(document.createElement('canvas'), { width, height })
    const context = canvas.getContext('2d')!
    context.fillStyle = '#ffffff'
    context.fillRect(0, 0, width, height)
    context.drawImage(image, 0, 0, width, height)
    const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/png'))
    if (!blob) throw new Error(t('exhibits.flaw.tooLarge'))
    return new File([blob], file.name.replace(/\.svg$/i, '.png'), { type: 'image/png' })
  } finally {
    URL.revokeObjectURL(address)
  }
}

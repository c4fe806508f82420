import { t } from 'i18next'
import { create } from 'zustand'
import { handouts } from '../api/client'
import type { HandoutRow } from '../contract.generated'
import { currentSitting, wish } from '../live/connection'
import { saveFile } from '../ui/saveFile'

/** A file on its way to here. */
export interface Fetching {
  /** 0 to 1; null while its pages are being made for printing. */
  came: number | null
  /** Why it goes no further; null while it does. */
  failed: string | null
  stop: () => void
}

export const useFetching = create<{ files: Readonly<Record<number, Fetching>> }>(() => ({ files: {} }))

const set = (handout: number, change: Partial<Fetching> | null) =>
  useFetching.setState(({ files }) => {
    const { [handout]: before, ...others } = files
    return { files: change === null ? others : { ...others, [handout]: { came: 0, failed: null, stop, ...before, ...change } } }
    function stop() {
      set(handout, null)
    }
  })

/** Milliseconds before each new try after the connection broke. */
const tries = [500, 1000, 2000, 4000, 8000, 15_000]

/** What has come of files whose fetching broke off, so that it goes on from there. */
const came = new Map<number, Blob[]>()

/** The reader stopped it, or the file is not there any more: no new try helps. */
class Over extends Error {}

/** Takes a file that was handed out, and saves it where this browser saves files. Called again, it goes on from what has come. */
export async function takeFile(handout: HandoutRow) {
  if (useFetching.getState().files[handout.number]?.failed === null) return
  const stopped = new AbortController()
  set(handout.number, {
    came: 0,
    failed: null,
    stop: () => {
      stopped.abort()
      came.delete(handout.number)
      set(handout.number, null)
    },
  })
  if (handout.state !== 'own' && !(await wish({ do: 'takeFile', handout: handout.number }))) return set(handout.number, null)
  const parts = came.get(handout.number) ?? []
  came.set(handout.number, parts)
  const sitting = currentSitting()
  for (let failures = 0; ;) {
    const before = sizeOf(parts)
    try {
      if (before < handout.size) await fetchOn(sitting, handout, parts, stopped.signal)
      came.delete(handout.number)
      set(handout.number, null)
      return saveFile(new Blob(parts, { type: 'application/octet-stream' }), handout.name)
    } catch (failure) {
      if (stopped.signal.aborted) return
      const over = failure instanceof Over
      if (sizeOf(parts) > before) failures = 0
      if (over || failures >= tries.length) {
        if (over) came.delete(handout.number)
        return set(handout.number, { failed: over ? failure.message : t('files.broke') })
      }
      await new Promise((wait) => setTimeout(wait, tries[failures++]))
      if (stopped.signal.aborted) return
    }
  }
}

const sizeOf = (parts: readonly Blob[]) => parts.reduce((sum, part) => sum + part.size, 0)

async function fetchOn(sitting: string, handout: HandoutRow, parts: Blob[], signal: AbortSignal) {
  let size = sizeOf(parts)
  const answer = await fetch(handouts.fileAddress(sitting, handout.number), {
    headers: size > 0 ? { Range: `bytes=${size}-` } : {},
    signal,
  })
  if (answer.status === 404 || answer.status === 403) throw new Over(t('reason.noSuchHandout'))
  if (!answer.ok || !answer.body) throw new Error(String(answer.status))
  // Without ranges it comes from the beginning.
  if (answer.status === 200) size = parts.length = 0
  const reader = answer.body.getReader()
  for (;;) {
    const { done, value } = await reader.read()
    if (done) break
    parts.push(new Blob([value]))
    size += value.length
    set(handout.number, { came: Math.min(1, size / handout.size) })
    // Many small ones become one, so that a large file does not lie about in thousands.
    if (parts.length > 256) parts.splice(0, parts.length, new Blob(parts))
  }
  if (size !== handout.size) throw new Error('It broke off.')
}

/** Takes a file that is meant to be printed, and leads to the print dialog with its pages. */
export async function printFile(handout: HandoutRow) {
  if (useFetching.getState().files[handout.number]?.failed === null) return
  let stopped = false
  const frame = document.createElement('iframe')
  set(handout.number, {
    came: null,
    failed: null,
    stop: () => {
      stopped = true
      set(handout.number, null)
    },
  })
  try {
    if (handout.state !== 'own' && !(await wish({ do: 'takeFile', handout: handout.number }))) return set(handout.number, null)
    const sitting = currentSitting()
    const { pages } = await handouts.toPrint(sitting, handout.number)
    frame.setAttribute('aria-hidden', 'true')
    frame.tabIndex = -1
    frame.className = 'fixed size-0 border-0'
    document.body.append(frame)
    const paper = frame.contentDocument!
    paper.title = handout.name
    paper.body.style.margin = '0'
    for (let page = 1; page <= pages && !stopped; page++) {
      const picture = paper.createElement('img')
      picture.alt = ''
      picture.src = handouts.printAddress(sitting, handout.number, page)
      Object.assign(picture.style, {
        display: 'block',
        width: '100%',
        maxHeight: '100vh',
        objectFit: 'contain',
        breakAfter: 'page',
      })
      paper.body.append(picture)
      await picture.decode()
      set(handout.number, { came: page / pages })
    }
    if (stopped) return frame.remove()
    set(handout.number, null)
    const view = frame.contentWindow!
    // Some browsers go on while the dialog stands there, and print what is there then.
    view.addEventListener('afterprint', () => setTimeout(() => frame.remove(), 1000))
    view.print()
  } catch {
    frame.remove()
    if (!stopped) set(handout.number, { failed: t('files.printFailed') })
  }
}

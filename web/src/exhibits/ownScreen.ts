import { useEffect } from 'react'
import type { ExhibitRow } from '../contract.generated'
import { t } from 'i18next'
import { isOwnAct } from '../live/ownActs'
import { wish } from '../live/connection'
import { tell, useLive } from '../live/store'
import { takeBrought } from '../admission/brought'
import { media, useMedia } from '../media/engine'

// One's own screen: what the browser captures, and the exhibit that stands for it on the shelf, held together.

/** Chosen, and not on the shelf yet. */
let opening = false
/** The capture has ended, and the shelf is still to be told. */
let closing = false

const own = (): ExhibitRow | undefined => useLive.getState().me?.exhibits.find((one) => one.kind === 'screen')

/** Lets the reader choose, and puts it on the shelf. Call inside a click. */
export async function openScreen(title = ''): Promise<boolean> {
  if (opening) return false
  opening = true
  try {
    const stream = await media.pickScreen()
    if (!stream) {
      tell(t('exhibits.notChosen'), 'refusal')
      return false
    }
    media.startScreen(stream, () => void closeScreen())
    if (own() || (await wish({ do: 'openScreen', title }))) return true
    media.stopScreen()
    return false
  } finally {
    opening = false
  }
}

/** Shows to all what was chosen before entry, where one may; the choice was the consent. */
async function showBrought(stream: MediaStream) {
  opening = true
  try {
    media.startScreen(stream, () => void closeScreen())
    if (!(await wish({ do: 'openScreen', title: '' }))) return media.stopScreen()
    const exhibit = own() ?? (await soon(own))
    if (exhibit) await wish({ do: 'showExhibit', exhibit: exhibit.number, beside: false })
  } finally {
    opening = false
  }
}

/** What is done is told a moment after it is answered, or before. */
async function soon<T>(look: () => T | undefined): Promise<T | undefined> {
  for (let waited = 0; waited < 3000; waited += 50) {
    const there = look()
    if (there) return there
    await new Promise((wait) => setTimeout(wait, 50))
  }
  return undefined
}

export async function closeScreen() {
  closing = true
  try {
    media.stopScreen()
    const exhibit = own()
    if (exhibit) await wish({ do: 'closeExhibit', exhibit: exhibit.number })
  } finally {
    closing = false
  }
}

/** A moment for what stands there to reach the relay before it is told to pass on nothing more. */
const reaches = 100

export async function holdScreen(on: boolean) {
  if (on) {
    await media.holdScreen(true)
    await new Promise((done) => setTimeout(done, reaches))
    if (!(await wish({ do: 'holdScreen', on }))) await media.holdScreen(false)
  } else if (await wish({ do: 'holdScreen', on })) await media.holdScreen(false)
}

/** What is captured here and what stands on the shelf end together; a page that was loaded anew captures nothing. */
export function useOwnScreen() {
  const line = useLive((state) => state.line)
  const isOpen = useLive((state) => state.me?.place === 'seated' && state.me.exhibits.some((one) => one.kind === 'screen'))
  const captured = useMedia((state) => state.ownScreen !== null)
  const inside = useLive((state) => state.me?.place === 'seated')
  useEffect(() => {
    const stream = line === 'up' && inside ? takeBrought() : null
    if (stream) void showBrought(stream)
  }, [line, inside])
  useEffect(() => {
    if (captured && (line === 'superseded' || line === 'noSeat')) return media.stopScreen()
    if (line !== 'up' || opening || closing || isOpen === captured) return
    if (!isOpen) return media.stopScreen()
    // Typed as a line, it is there before anything was chosen.
    if (isOwnAct('opening', Date.now())) void openScreen().then((done) => (done ? undefined : closeScreen()))
    else void closeScreen()
  }, [line, isOpen, captured])
}

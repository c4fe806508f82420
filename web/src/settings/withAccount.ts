import i18next from 'i18next'
import { setArrivalSound, useArrivalSound } from '../admission/arrivals'
import { account, onMe } from '../api/client'
import { languages, setLanguage } from '../i18n'
import { takeKeys, useKeymap, usualKeys, type KeyAct } from './keymap'
import { change, useSettings, usualSettings } from './store'

interface Kept {
  settings?: object
  keys?: object
  language?: string
  arrivalSound?: boolean
}

/** In milliseconds: what changes together is sent together. */
const pause = 800

let owner: string | null = null
let applying = false
let timer: ReturnType<typeof setTimeout> | undefined

const gathered = (): string => {
  const map = useKeymap.getState()
  const keys = Object.fromEntries(Object.entries(map).filter(([act, key]) => usualKeys[act as KeyAct] !== key))
  const kept: Kept = {
    settings: useSettings.getState(),
    keys,
    language: i18next.language,
    arrivalSound: useArrivalSound.getState().on,
  }
  return JSON.stringify(kept)
}

function keepSoon() {
  if (owner === null || applying) return
  clearTimeout(timer)
  // What could not be kept now goes with the next change; this browser has it all the same.
  timer = setTimeout(() => void account.keepSettings(gathered(), i18next.language).catch(() => undefined), pause)
}

async function apply(text: string) {
  let kept: Kept = {}
  try {
    kept = JSON.parse(text) as Kept
  } catch {
    return
  }
  applying = true
  try {
    change({ ...usualSettings, ...kept.settings })
    takeKeys(kept.keys ?? {})
    if (typeof kept.arrivalSound === 'boolean' && kept.arrivalSound !== useArrivalSound.getState().on)
      setArrivalSound(kept.arrivalSound, false)
    if (kept.language && kept.language in languages && kept.language !== i18next.language) await setLanguage(kept.language)
  } finally {
    applying = false
  }
}

/**
 * What a host has chosen goes with the account: it comes with signing in, wherever that is, is kept as it changes, and is
 * forgotten in this browser by signing out.
 */
export function followAccount() {
  onMe((me) => {
    if (me.email === owner) return
    const before = owner
    owner = me.email
    if (owner === null) {
      clearTimeout(timer)
      if (before !== null) void apply(JSON.stringify({ language: i18next.language }))
    } else if (me.settings !== null) void apply(me.settings)
    else keepSoon()
  })
  useSettings.subscribe(keepSoon)
  useKeymap.subscribe(keepSoon)
  useArrivalSound.subscribe(keepSoon)
  i18next.on('languageChanged', keepSoon)
}

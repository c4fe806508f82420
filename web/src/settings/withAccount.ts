import i18next from 'i18next'
import { setArrivalSound, useArrivalSound } from '../admission/arrivals'
import { account, onMe } from '../api/client'
import { chosenLanguage, forgetLanguage, languages, setLanguage } from '../i18n'
import { takeKeys, useKeymap, usualKeys, type KeyAct } from './keymap'
import { change, useSettings, usualSettings } from './store'

interface Kept {
  settings?: object
  keys?: object
  /** Where one was chosen; otherwise each browser has its own. */
  language?: string
  arrivalSound?: boolean
}

/** In milliseconds: what changes together is sent together. */
const pause = 800

/** The account whose settings were changed here and could not be sent yet: they are newer than what the server has. */
const unsent = 'settings-unsent'

/** Whose settings this browser shows. */
const place = 'settings-of'

let owner: string | null = null
let applying = false
let timer: ReturnType<typeof setTimeout> | undefined

const gathered = (): string => {
  const map = useKeymap.getState()
  const keys = Object.fromEntries(Object.entries(map).filter(([act, key]) => usualKeys[act as KeyAct] !== key))
  const kept: Kept = {
    settings: useSettings.getState(),
    keys,
    ...(chosenLanguage() ? { language: chosenLanguage() } : {}),
    arrivalSound: useArrivalSound.getState().on,
  }
  return JSON.stringify(kept)
}

function keepSoon() {
  if (owner === null || applying) return
  localStorage.setItem(unsent, owner)
  clearTimeout(timer)
  timer = setTimeout(() => void send(), pause)
}

async function send() {
  const sent = gathered()
  try {
    await account.keepSettings(sent, i18next.language)
  } catch {
    // It goes with the next change, or when the page is opened again.
    return
  }
  if (gathered() === sent) localStorage.removeItem(unsent)
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
    if (me.email === null && localStorage.getItem(place) !== null) {
      clearTimeout(timer)
      owner = null
      localStorage.removeItem(place)
      localStorage.removeItem(unsent)
      forgetLanguage()
      void apply('{}')
    }
    if (me.email === owner) return
    owner = me.email
    if (owner === null) return
    localStorage.setItem(place, owner)
    if (me.settings === null || localStorage.getItem(unsent) === owner) keepSoon()
    else void apply(me.settings)
  })
  useSettings.subscribe(keepSoon)
  useKeymap.subscribe(keepSoon)
  useArrivalSound.subscribe(keepSoon)
  i18next.on('languageChanged', keepSoon)
}

import i18next from 'i18next'
import { initReactI18next } from 'react-i18next'
import en from './locales/en.json'

/** The languages of the interface, each by its own name. */
export const languages: Record<string, string> = { en: 'English', pl: 'Polski' }

/** English is always there, so that a text that lacks in another language still says something. */
const loads: Record<string, () => Promise<{ default: object }>> = { pl: () => import('./locales/pl.json') }

const place = 'language'

void i18next.use(initReactI18next).init({
  lng: 'en',
  fallbackLng: 'en',
  resources: { en: { translation: en } },
  interpolation: { escapeValue: false },
  showSupportNotice: false,
})

/** Brings the interface to a language, and keeps the choice in this browser. */
export async function setLanguage(code: string) {
  localStorage.setItem(place, code)
  await bring(code)
}

/** The language that was chosen here; undefined while the page simply speaks the browser's. */
export const chosenLanguage = () => localStorage.getItem(place) ?? undefined

/** The page speaks the browser's language again when it is loaded next. */
export const forgetLanguage = () => localStorage.removeItem(place)

async function bring(code: string) {
  const load = loads[code]
  if (load && !i18next.hasResourceBundle(code, 'translation'))
    i18next.addResourceBundle(code, 'translation', (await load()).default)
  await i18next.changeLanguage(code)
  document.documentElement.lang = code
}

/** The language chosen here before; otherwise the first of the browser's that there is. */
export async function startLanguage() {
  const wanted = [localStorage.getItem(place) ?? '', ...navigator.languages.map((tag) => tag.split('-')[0]!)].find(
    (code) => code in languages,
  )
  if (wanted && wanted !== 'en') await bring(wanted).catch(() => undefined)
}

export const t = i18next.t.bind(i18next)

/** The reader's own form of the interface's language: it decides how times and dates are written. */
export const reader = () => navigator.languages.find((tag) => tag.split('-')[0] === i18next.language) ?? i18next.language

/** "Anna", "Anna and Ben", "Anna, Ben and 3 others": at most three names in the language's own list form. */
export function namesOf(names: readonly string[], count: number): string {
  const rest = count - names.length
  if (rest > 0) return t('common.others', { names: names.join(', '), count: rest })
  return new Intl.ListFormat(i18next.language, { type: 'conjunction' }).format(names)
}

/** A list of verbs: "listen, speak and show your camera". */
export const listOf = (items: readonly string[]) => new Intl.ListFormat(i18next.language, { type: 'conjunction' }).format(items)

/** "0:42", "1:03:20". */
export function clock(milliseconds: number): string {
  const seconds = Math.max(0, Math.floor(milliseconds / 1000))
  const pad = (n: number) => String(n).padStart(2, '0')
  const [h, m, s] = [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60, seconds % 60]
  return h > 0 ? `${h}:${pad(m)}:${pad(s)}` : `${m}:${pad(s)}`
}

export const timeOfDay = (at: number) => new Intl.DateTimeFormat(reader(), { hour: 'numeric', minute: '2-digit' }).format(at)

/** "Mon, 5 Apr 2027, 14:30" in the reader's zone. */
export const dateAndTime = (at: number) =>
  new Intl.DateTimeFormat(reader(), {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    year: 'numeric',
    hour: 'numeric',
    minute: '2-digit',
  }).format(at)

/** "5 Apr, 14:30". */
export const shortMoment = (at: number) =>
  new Intl.DateTimeFormat(reader(), { day: 'numeric', month: 'short', hour: 'numeric', minute: '2-digit' }).format(at)

export const dayAndTime = (at: number) =>
  new Intl.DateTimeFormat(reader(), { weekday: 'long', hour: 'numeric', minute: '2-digit' }).format(at)

import { useTranslation } from 'react-i18next'
import type { FilmRow } from '../contract.generated'
import { clock, reader } from '../i18n'

/** How long something lies in the wastebasket, in days. */
export const wastebasketDays = 30

export const megabytes = (bytes: number) =>
  new Intl.NumberFormat(reader(), { maximumFractionDigits: bytes < 10_000_000 ? 1 : 0 }).format(bytes / 1_000_000)

/** For finding: without accents and capitals. */
export const folded = (text: string) => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase().trim()

/** How far a film is, in words. */
export function useFilmState() {
  const { t } = useTranslation()
  return (film: FilmRow) => {
    if (film.state === 'failed' && film.flaw) return t(`reason.${film.flaw}`)
    if (film.state !== 'composing') return t(`library.film.${film.state}`)
    const percent = Math.floor((film.progress?.share ?? 0) * 100)
    return film.progress?.left != null
      ? t('library.film.composingLeft', { percent, left: clock(film.progress.left) })
      : t('library.film.composing', { percent })
  }
}

/** Minutes and seconds, or hours, as somebody types them: 1:30, 90, 1:02:03; null when it is none. In milliseconds. */
export function timeIn(text: string): number | null {
  const parts = text.trim().split(':')
  if (parts.length > 3 || parts.some((part) => !/^\d{1,5}([.,]\d{1,3})?$/.test(part))) return null
  return Math.round(parts.reduce((sum, part) => sum * 60 + Number(part.replace(',', '.')), 0) * 1000)
}

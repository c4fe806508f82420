/** What a captioner types, and how it becomes lines. */

/** The most that a line holds; the server takes a little more. */
export const longestLine = 280

/** A line goes by itself when it is so long, at the last gap between words. */
const full = 72
/** After a comma it goes when it is so long. */
const clause = 42

/**
 * Of what is typed so far that which goes now, and what stays: a finished sentence goes, a long clause, and what is too long for a line.
 */
export function ready(text: string): [goes: string, stays: string] {
  const sentence = /[.?!…]["'”’)]?\s+$/.exec(text)
  if (sentence) return [text.trim(), '']
  if (/[,;:–]\s+$/.test(text) && text.trim().length >= clause) return [text.trim(), '']
  if (text.length <= full) return ['', text]
  const gap = text.lastIndexOf(' ')
  return gap > 0 ? [text.slice(0, gap).trim(), text.slice(gap + 1)] : text.length > longestLine ? [text, ''] : ['', text]
}

/** Short forms by which a captioner writes longer words: "tk" for "the towpath". */
export type ShortForms = Readonly<Record<string, string>>

const letters = '\\p{L}\\p{N}'
const lastWord = new RegExp(`(^|[^${letters}])([${letters}]+)([^${letters}])$`, 'u')

/** Writes out the short form that has just been ended by a space or a mark. */
export function writtenOut(text: string, forms: ShortForms): string {
  const found = lastWord.exec(text)
  if (!found) return text
  const [all, before, word, after] = found as unknown as [string, string, string, string]
  const key = Object.hasOwn(forms, word) ? word : word.toLowerCase()
  if (!Object.hasOwn(forms, key)) return text
  const long = forms[key]!
  // A short form that begins with a capital begins a sentence.
  const out = word !== key && word[0] !== word[0]!.toLowerCase() ? long[0]!.toUpperCase() + long.slice(1) : long
  return text.slice(0, text.length - all.length) + before + out + after
}

/** How far one writes behind what one hears: learnt each time somebody begins to speak and a line is begun after it. */
export class Delay {
  /** In milliseconds, before anything was learnt. */
  static readonly usual = 2_000
  private static readonly most = 15_000
  private static readonly weight = 0.3

  private now = Delay.usual
  private began: number | null = null

  /** In milliseconds. */
  get value() {
    return Math.round(this.now)
  }

  /** Somebody is heard from now on. */
  heard(at: number) {
    this.began ??= at
  }

  /** A line is begun. */
  typed(at: number) {
    if (this.began === null) return
    const behind = at - this.began
    this.began = null
    // Somebody who spoke long before was not what this line is about.
    if (behind >= 0 && behind <= Delay.most) this.now += (behind - this.now) * Delay.weight
  }
}

import { useTranslation } from 'react-i18next'
import type { BenchNote } from '../contract.generated'
import { timeOfDay } from '../i18n'

/** Who somebody at the door is thought to be, in words. */
export function useRecognition() {
  const { t } = useTranslation()
  const reasonsOf = ({ recognition }: BenchNote) => recognition.reasons.map((reason) => t(`docket.reason.${reason}`))
  return {
    reasonsOf,
    /** One line for a strip: "sure: Nia Okafor, 14:15; short form". */
    summaryOf(note: BenchNote, typed: string): string | null {
      const { recognition, line } = note
      const reasons = reasonsOf(note).join(', ')
      if (!line) return reasons || null
      const who = line.name === typed ? [] : [line.name]
      const slot = line.slot === null ? [] : [t('docket.slotAt', { time: timeOfDay(line.slot) })]
      return `${t(`docket.match.${recognition.match}`)}: ${[...who, ...slot, reasons].join(', ')}`
    },
  }
}

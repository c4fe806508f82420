import { useEffect, useRef } from 'react'
import { useTranslation } from 'react-i18next'
import { clock } from '../i18n'
import { tell, useLive } from '../live/store'
import { useNow } from '../live/time'

/** How the planned end stands, in a few words; null when it is open. */
export function useTimeLeft() {
  const { t } = useTranslation()
  const end = useLive((state) => state.sitting?.time.endsAt ?? null)
  const now = useNow()
  if (end === null) return null
  const left = end - now
  return {
    words:
      left < 0
        ? t('time.over', { time: clock(-left) })
        : left < 120_000
          ? t('time.leftClock', { time: clock(left) })
          : t('time.left', { count: Math.round(left / 60_000) }),
    warns: left < 5 * 60_000,
  }
}

/** In minutes before the planned end. */
const warnings = [10, 5, 1, 0]

/** Tells the bench when the planned end comes near, each time once. */
export function useEndWarnings() {
  const { t } = useTranslation()
  const end = useLive((state) => state.sitting?.time.endsAt ?? null)
  const now = useNow()
  const left = end === null ? null : (end - now) / 60_000
  const before = useRef<{ end: number | null; left: number | null }>({ end: null, left: null })
  useEffect(() => {
    const was = before.current
    before.current = { end, left }
    if (left === null || was.end !== end || was.left === null) return
    const passed = warnings.find((minutes) => was.left! > minutes && left <= minutes)
    if (passed !== undefined) tell(passed === 0 ? t('time.endReached') : t('time.warning', { count: passed }))
  })
}

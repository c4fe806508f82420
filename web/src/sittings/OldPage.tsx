import { useEffect } from 'react'
import { useTranslation } from 'react-i18next'
import { isQuiet, useBuild } from '../live/build'
import { Button } from '../ui/Button'

/** So long it has to be quiet before the page loads itself anew, in milliseconds. */
const quietFor = 8_000
const between = 1_000

/** The server has been brought to a newer build: the page says so, and loads itself anew when that interrupts nothing. */
export function OldPage() {
  const { t } = useTranslation()
  const isOld = useBuild((state) => state.isOld)
  useEffect(() => {
    if (!isOld) return
    let quiet = 0
    const timer = setInterval(() => {
      quiet = isQuiet() ? quiet + between : 0
      if (quiet >= quietFor) location.reload()
    }, between)
    return () => clearInterval(timer)
  }, [isOld])
  if (!isOld) return null
  return (
    <div
      role="status"
      className="flex flex-wrap items-center gap-3 border-l-4 border-brass bg-paper px-3 py-1.5 text-[0.906rem] text-ink"
    >
      <p>{t('boundary.old')}</p>
      <Button small onClick={() => location.reload()}>
        {t('boundary.loadNow')}
      </Button>
    </div>
  )
}

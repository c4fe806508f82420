import { useTranslation } from 'react-i18next'
import type { VisitRow } from '../contract.generated'
import { clock, timeOfDay } from '../i18n'
import { useLive } from '../live/store'
import { useNow } from '../live/time'
import type { BoardTopic } from '../topics/boardSlots'
import { NextButton } from './NextButton'

/** How long of how long a visit is on. */
function VisitClock({ visit }: { visit: VisitRow }) {
  const { t } = useTranslation()
  const spent = useNow() - visit.since
  const over = spent > visit.minutes * 60_000
  return (
    <time className={`text-right text-[0.75rem] whitespace-nowrap ${over ? 'font-semibold text-brick' : 'text-ink2'}`}>
      {t('visit.of', { spent: clock(spent), count: visit.minutes })}
    </time>
  )
}

export const docket: BoardTopic = {
  words: [
    {
      at: 90,
      use: (seat, note, t) => {
        const visits = useLive((state) => state.sitting?.visits)
        if (visits?.on.some((visit) => visit.seat === seat.id))
          return visits.nextSlot === null ? t('visit.last') : t('visit.next', { time: timeOfDay(visits.nextSlot) })
        return note.line?.slot ? t('docket.slotAt', { time: timeOfDay(note.line.slot) }) : null
      },
    },
  ],
  clock: {
    at: 20,
    use: (seat) => {
      const visit = useLive((state) => state.sitting?.visits.on.find((one) => one.seat === seat.id))
      return visit ? <VisitClock visit={visit} /> : null
    },
  },
  forAll: [{ at: 10, Act: NextButton }],
}

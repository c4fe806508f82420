import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import { Link } from 'react-router'
import { sessions } from '../api/client'
import { reader, timeOfDay } from '../i18n'
import { Button } from '../ui/Button'
import { Failure } from '../ui/Failure'

const day = 24 * 3_600_000

/** The visits of a week, a column for each day. */
export function WeekOfSlots() {
  const { t } = useTranslation()
  const [weeks, setWeeks] = useState(0)
  const today = new Date()
  today.setHours(0, 0, 0, 0)
  const from = today.getTime() + weeks * 7 * day
  const slots = useQuery({ queryKey: ['slots', from], queryFn: () => sessions.slots(from) })
  if (weeks === 0 && !slots.data?.length) return <Failure of={[slots.error]} />
  const dayOf = (at: number) => new Date(at).toDateString()
  return (
    <section aria-labelledby="week-title">
      <div className="mb-2 flex items-center gap-3">
        <h2 id="week-title" className="font-serif text-[1.062rem] font-semibold">
          {t('week.title')}
        </h2>
        <Button small onClick={() => setWeeks(weeks - 1)}>
          {t('week.before')}
        </Button>
        <Button small onClick={() => setWeeks(weeks + 1)}>
          {t('week.after')}
        </Button>
      </div>
      <Failure of={[slots.error]} className="mb-2" />
      <ol className="grid grid-cols-2 gap-1 sm:grid-cols-4 xl:grid-cols-7">
        {Array.from({ length: 7 }, (_, n) => new Date(from + n * day + day / 2)).map((date) => {
          const here = (slots.data ?? []).filter((slot) => dayOf(slot.slot) === date.toDateString())
          return (
            <li key={date.toDateString()} className="min-h-24 border border-line bg-paper p-2">
              <p className="mb-1 text-[0.812rem] font-semibold">
                {new Intl.DateTimeFormat(reader(), { weekday: 'short', day: 'numeric', month: 'short' }).format(date)}
              </p>
              {slots.data && here.length === 0 && <p className="text-[0.781rem] text-ink2">{t('week.none')}</p>}
              <ul>
                {here.map((slot) => (
                  <li
                    key={`${slot.session}${slot.slot}${slot.name}`}
                    className="mb-1.5 border-l-3 border-brass pl-1.5 text-[0.781rem] leading-snug"
                  >
                    <Link to={`/plan/${slot.session}`} className="block min-h-6 hover:underline" title={slot.title}>
                      <span className="text-ink2">{timeOfDay(slot.slot)}</span> {slot.name}
                      {slot.answer === 'comesNot' && <span className="text-brick"> · {t('answer.short.comesNot')}</span>}
                    </Link>
                  </li>
                ))}
              </ul>
            </li>
          )
        })}
      </ol>
    </section>
  )
}

import { useEffect, useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { PersonRow, SeatRow } from '../contract.generated'
import { clock, timeOfDay } from '../i18n'
import { sentenceOf } from '../ledger/sentence'
import { questions } from '../live/connection'
import { useLive } from '../live/store'

/** One person's connection, how long they spoke, and what happened with them. */
export function History({ seat }: { seat: SeatRow }) {
  const { t } = useTranslation()
  const v = useLive((state) => state.v)
  const [person, setPerson] = useState<PersonRow | null>(null)
  useEffect(() => {
    let stale = false
    void questions.person(seat.id).then((row) => !stale && setPerson(row))
    return () => {
      stale = true
    }
  }, [seat.id, v])
  if (!person) return <p className="text-[0.844rem] text-ink2">{t('common.loading')}</p>
  const facts: [string, string][] = [
    [t('person.device'), seat.byPhone ? t('board.byPhone') : (person.device ?? t('person.unknown'))],
    [
      t('person.connection'),
      seat.place === 'gone'
        ? t('board.gone')
        : !seat.connected
          ? t('person.lost')
          : person.slow
            ? t('board.slow')
            : person.since
              ? t('person.since', { time: timeOfDay(person.since) })
              : t('person.good'),
    ],
    [t('person.spoke'), clock(seat.note?.talked ?? 0)],
    [t('person.hadFloor'), clock(seat.note?.hadFloor ?? 0)],
  ]
  return (
    <>
      <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-0.5 text-[0.844rem]">
        {facts.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-ink2">{name}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
      {/* Scrolled with the keyboard, so it takes the focus. */}
      {/* eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex */}
      <ol tabIndex={0} aria-label={t('person.history')} className="mt-2 max-h-48 overflow-y-auto text-[0.812rem]">
        {person.history.map((row) => (
          <li key={row.sequence} className="flex gap-2 border-t border-line py-1">
            <span className="flex-1">{sentenceOf(t, row)}</span>
            <time className="text-ink2">{timeOfDay(row.at)}</time>
          </li>
        ))}
      </ol>
    </>
  )
}

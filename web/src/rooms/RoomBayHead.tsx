import { clsx } from 'clsx'
import { useTranslation } from 'react-i18next'
import { clock, listOf } from '../i18n'
import { wish } from '../live/connection'
import { useLive, type Sitting } from '../live/store'
import { useNow } from '../live/time'
import { Button } from '../ui/Button'
import { turnFold } from './bays'
import type { RoomBay } from './words'

/** A pause is told from so long on, in milliseconds. */
const silence = 60_000

/** What matters of a room at a glance: who is there, who speaks, whether it calls, how much time is left. */
export function RoomBayHead({ bay, rooms, folded }: { bay: RoomBay; rooms: Sitting['rooms']; folded: boolean }) {
  const { t } = useTranslation()
  const now = useNow()
  const self = useLive((state) => state.me?.seat)
  const mine = useLive((state) => state.me?.room ?? null)
  const all = useLive((state) => state.seats)
  const { row, name, seats, room } = bay
  const called = row !== null && row.called !== null
  const there = seats.filter((seat) => seat.id !== self)
  const belongs = row ? row.belong : seats.length
  const present = seats.filter((seat) => seat.role === 'attendee' || seat.role === 'presenter').length
  const leads = row
    ? row.leads.map((id) => all.get(id)?.name).filter((one) => one !== undefined)
    : (rooms.draft?.people.filter((one) => one.room === room - 1 && one.leads) ?? [])
        .map((one) => all.get(one.seat)?.name)
        .filter((one) => one !== undefined)
  const hands = there.filter((seat) => seat.hand !== null).length
  const said = [
    ...(called ? [t('rooms.calls', { name: row.calledBy ?? '', time: clock(now - row.called!) })] : []),
    ...(row && rooms.opensAt === null && row.heard !== null && seats.length > 0
      ? now - row.heard > silence
        ? [t('rooms.silent', { time: clock(now - row.heard) })]
        : row.heardName
          ? [t('rooms.speaks', { name: row.heardName })]
          : []
      : []),
    ...(hands > 0 ? [t('rooms.hands', { count: hands })] : []),
    ...(!called && leads.length > 0 ? [t('rooms.ledBy', { names: listOf(leads) })] : []),
  ]
  return (
    <div
      className={clsx(
        'mx-2 mb-1 flex min-h-9 flex-wrap items-center gap-x-2 gap-y-0.5 border border-l-[5px] border-line py-0.5 pr-1.5 pl-2',
        called
          ? 'border-l-brick bg-brick-soft'
          : mine === room && row
            ? 'border-l-moss bg-moss-soft'
            : 'border-l-felt-ink bg-raised',
      )}
    >
      <h2 className="min-w-0 flex-1 font-serif text-[0.906rem] leading-tight font-semibold">
        <button
          aria-expanded={!folded}
          onClick={() => turnFold(room)}
          className="max-w-full overflow-hidden text-left text-ellipsis underline decoration-line decoration-2 underline-offset-4"
        >
          {name}
        </button>{' '}
        <span className="font-sans text-[0.812rem] font-normal whitespace-nowrap text-ink2">
          {belongs !== present ? t('rooms.of', { count: present, belong: belongs }) : t('rooms.people', { count: present })}
          {mine === room && row && ` · ${t('rooms.hereNow')}`}
        </span>
      </h2>
      {row && row.endsAt !== null && (
        <time
          className={`text-[0.812rem] whitespace-nowrap ${row.endsAt - now <= 60_000 ? 'font-semibold text-brick' : 'text-ink2'}`}
        >
          {clock(Math.max(0, row.endsAt - now))}
        </time>
      )}
      {row && rooms.opensAt === null && (
        <span className="flex gap-1">
          {called && (
            <Button small aria-label={t('rooms.answerOf', { room: name })} onClick={() => void wish({ do: 'answerCall', room })}>
              {t('rooms.answer')}
            </Button>
          )}
          {rooms.mayListen && mine !== room && !called && (
            <Button
              small
              aria-label={t('rooms.listenOf', { room: name })}
              onClick={() => void wish({ do: 'visitRoom', room, listens: true })}
            >
              {t('rooms.listen')}
            </Button>
          )}
          {mine !== room && (
            <Button
              small
              look={called ? 'primary' : 'plain'}
              aria-label={t('rooms.visitOf', { room: name })}
              onClick={() => void wish({ do: 'visitRoom', room })}
            >
              {t('rooms.visit')}
            </Button>
          )}
        </span>
      )}
      {said.length > 0 && (
        <p className={`basis-full truncate text-[0.75rem] leading-tight ${called ? 'font-semibold text-brick' : 'text-ink2'}`}>
          {said.join(' · ')}
        </p>
      )}
    </div>
  )
}

import { clsx } from 'clsx'
import type { ReactNode } from 'react'
import { useTranslation } from 'react-i18next'
import type { MeRow, RoomRow } from '../contract.generated'
import { clock, listOf } from '../i18n'
import { wish } from '../live/connection'
import { useLive, type Sitting } from '../live/store'
import { useNow } from '../live/time'
import { Button } from '../ui/Button'
import { roomName } from './words'

/** Says where one is and how long, and holds what one can do about it. */
export default function RoomLine({ me, sitting }: { me: MeRow; sitting: Sitting }) {
  const { rooms } = sitting
  if (rooms.opensAt !== null) return me.ownRoom && <Going me={me} opensAt={rooms.opensAt} />
  const here = rooms.open.find((room) => room.number === me.room)
  return (
    <>
      {here?.words && <FromBench text={here.words.text} />}
      {here ? <InRoom me={me} room={here} sitting={sitting} /> : me.ownRoom && <InHall me={me} />}
    </>
  )
}

function Line({ last = false, loud = false, children }: { last?: boolean; loud?: boolean; children: ReactNode }) {
  const { t } = useTranslation()
  return (
    <section
      aria-label={t('rooms.place')}
      className={clsx(
        'mb-2 flex flex-wrap items-center gap-x-4 gap-y-1.5 border border-l-[6px] border-line px-4 py-2',
        last ? 'border-l-brick bg-brick-soft' : loud ? 'border-l-brass bg-brass-soft' : 'border-l-moss bg-raised',
      )}
    >
      {children}
    </section>
  )
}

/** The countdown: where, with whom, and what for. */
function Going({ me, opensAt }: { me: MeRow; opensAt: number }) {
  const { t } = useTranslation()
  const left = Math.ceil((opensAt - useNow()) / 1000)
  const own = me.ownRoom!
  const room = roomName(t, own)
  return (
    <Line loud>
      <div className="min-w-0 flex-1">
        <p role="status" className="font-serif text-[1.25rem] leading-tight font-semibold">
          {left > 0 ? t('rooms.going', { room, count: left }) : t('rooms.goingNow', { room })}
        </p>
        {own.with.length > 0 && <p className="mt-0.5 text-[0.906rem]">{t('rooms.with', { names: listOf([...own.with]) })}</p>}
        {own.leads && <p className="mt-0.5 text-[0.906rem] font-semibold">{t('rooms.youLead')}</p>}
        {own.task && <p className="mt-1 font-serif text-[1.062rem] leading-snug whitespace-pre-line">{own.task}</p>}
      </div>
    </Line>
  )
}

function InHall({ me }: { me: MeRow }) {
  const { t } = useTranslation()
  const own = me.ownRoom!
  return (
    <Line>
      <p className="flex-1 font-serif text-[1rem]">{t('rooms.yourRoom', { room: roomName(t, own) })}</p>
      <Button look="primary" onClick={() => void wish({ do: 'visitRoom', room: own.number })}>
        {t('rooms.goToIt')}
      </Button>
    </Line>
  )
}

function FromBench({ text }: { text: string }) {
  const { t } = useTranslation()
  return (
    <aside role="alert" className="mb-2 border border-l-[6px] border-line border-l-felt-ink bg-felt-soft px-4 py-2">
      <p className="text-[0.812rem] text-ink2">{t('rooms.fromBench')}</p>
      <p className="font-serif text-[1.125rem] leading-snug break-words whitespace-pre-line">{text}</p>
    </aside>
  )
}

function InRoom({ me, room, sitting }: { me: MeRow; room: RoomRow; sitting: Sitting }) {
  const { t } = useTranslation()
  const now = useNow()
  const seats = useLive((state) => state.seats)
  const { rooms } = sitting
  const bench = me.viewer === 'bench'
  const listens = seats.get(me.seat)?.listens === true
  const left = room.endsAt === null ? null : Math.max(0, room.endsAt - now)
  const last = left !== null && left <= 60_000
  const guests = [...seats.values()].filter(
    (seat) => seat.id !== me.seat && seat.room === me.room && (seat.role === 'host' || seat.role === 'deputy'),
  )
  const named = (listening: boolean) => guests.filter((seat) => seat.listens === listening).map((seat) => seat.name)
  const name = roomName(t, room)
  return (
    <Line last={last}>
      <div className="min-w-0 flex-1 basis-60">
        <p className="flex flex-wrap items-baseline gap-x-3 font-serif text-[1.062rem] leading-tight font-semibold">
          {t(listens ? 'rooms.youListen' : bench ? 'rooms.youVisit' : 'rooms.youAreIn', { room: name })}
          {left !== null && (
            <span className={`font-sans text-[0.906rem] ${last ? 'text-brick' : 'font-normal text-ink2'}`}>
              {last && <span role="status">{t('rooms.lastMinute')} · </span>}
              <time>{t('rooms.left', { time: clock(left) })}</time>
            </span>
          )}
        </p>
        {room.task && (
          <p className="mt-0.5 max-h-24 overflow-y-auto text-[0.906rem] leading-snug break-words whitespace-pre-line">
            {room.task}
          </p>
        )}
        <p className="text-[0.812rem] text-ink2 empty:hidden">
          {[
            ...(room.leads.includes(me.seat) ? [t('rooms.youLead')] : []),
            ...(named(false).length > 0 ? [t('rooms.visits', { names: listOf(named(false)) })] : []),
            ...(named(true).length > 0 ? [t('rooms.listens', { names: listOf(named(true)) })] : []),
            ...(rooms.voiceName !== null && rooms.voice !== me.seat ? [t('rooms.speakingOther', { name: rooms.voiceName })] : []),
            ...(rooms.keepsChat ? [t('rooms.chatKept')] : []),
          ].join(' · ')}
        </p>
      </div>
      {!bench &&
        (room.called === null ? (
          <Button onClick={() => void wish({ do: 'callBench', on: true })}>{t('rooms.callBench')}</Button>
        ) : (
          <span className="flex items-center gap-2">
            <b role="status" className="text-[0.875rem] font-semibold text-brick">
              {t('rooms.called')} <time className="font-normal">{clock(now - room.called)}</time>
            </b>
            <Button small look="text" onClick={() => void wish({ do: 'callBench', on: false })}>
              {t('rooms.callBack')}
            </Button>
          </span>
        ))}
      {(bench || rooms.mayGoBack) && (
        <Button look={bench ? 'primary' : 'text'} onClick={() => void wish({ do: 'visitRoom', room: null })}>
          {t('rooms.goBack')}
        </Button>
      )}
    </Line>
  )
}

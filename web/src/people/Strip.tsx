import { clsx } from 'clsx'
import { Phone } from 'lucide-react'
import { memo } from 'react'
import { useTranslation } from 'react-i18next'
import type { SeatRow, VisitRow } from '../contract.generated'
import { useRecognition } from '../docket/useRecognition'
import { clock, timeOfDay } from '../i18n'
import { TurnClock } from '../floor/FloorLine'
import { wish } from '../live/connection'
import { useLive } from '../live/store'
import { useNow } from '../live/time'
import { Button } from '../ui/Button'
import { carry } from '../rooms/DropBay'
import { acts } from './acts'
import { PersonPanel } from './PersonPanel'
import { clickStrip, keyOnStrip } from './selection'
import { useTrouble } from './trouble'
import { VoiceBar } from './VoiceBar'

interface Props {
  seat: SeatRow
  /** Where the strip stands in its bay, in pixels. */
  top: number
  height: number
  /** From 1. */
  place: number
  of: number
  selected: boolean
  focusable: boolean
}

const spines = {
  lobby: 'border-l-brass bg-brass-soft',
  floor: 'border-l-moss bg-moss-soft',
  seated: 'border-l-seat bg-paper',
  gone: 'border-l-line bg-linen',
}

/** One person's row on the board; the same fields in the same place in every bay. */
export const Strip = memo(function Strip({ seat, top, height, place, of, selected, focusable }: Props) {
  const { t } = useTranslation()
  const note = useNote(seat)
  const holds = useLive((state) => state.sitting?.floor.turn?.seat === seat.id)
  const hasRooms = useLive(({ sitting }) => sitting !== null && (sitting.rooms.open.length > 0 || sitting.rooms.draft !== null))
  const visit = useLive((state) => state.sitting?.visits.on.find((one) => one.seat === seat.id))
  const bay = seat.place === 'seated' && (holds || seat.hand !== null) ? 'floor' : seat.place
  return (
    <li
      draggable={seat.place === 'seated' && hasRooms}
      onDragStart={(event) => carry(event.dataTransfer, seat.id)}
      aria-posinset={place}
      aria-setsize={of}
      style={{ top, height }}
      className={clsx(
        '@container absolute inset-x-0 flex items-center gap-1.5 border border-l-[5px] border-line pr-1.5',
        `pl-1.5 ${spines[bay]}`,
        selected ? 'outline-2 -outline-offset-1 outline-felt-ink' : '',
        seat.connected || seat.place === 'gone' ? '' : 'border-dashed',
      )}
    >
      <PersonPanel seat={seat} />
      <button
        data-strip={seat.id}
        aria-pressed={selected}
        tabIndex={focusable ? 0 : -1}
        onClick={(event) => clickStrip(event, seat.id)}
        onKeyDown={(event) => keyOnStrip(event, seat.id)}
        className="min-w-0 flex-1 self-stretch text-left leading-[1.15]"
      >
        <span className="block overflow-hidden text-[0.844rem] font-[620] text-ellipsis whitespace-nowrap [font-stretch:92%]">
          {seat.byPhone && <Phone aria-hidden size={12} className="mr-1 inline-block" />}
          {seat.name}
        </span>
        {note && height > 30 && (
          <span
            title={note}
            className={clsx(
              'block overflow-hidden text-[0.719rem] text-ellipsis whitespace-nowrap [font-stretch:90%]',
              seat.note?.looksLike ? 'font-semibold text-brick' : 'text-ink2',
            )}
          >
            {note}
          </span>
        )}
      </button>
      {seat.place === 'lobby' && (
        <Button
          small
          look="primary"
          aria-label={`${t('act.admit')} ${seat.name}`}
          onClick={() => void acts.admit([seat], seat.role === 'host' ? 'deputy' : seat.role)}
        >
          {t('act.admit')}
        </Button>
      )}
      {seat.hand !== null && (
        <Button
          small
          look="primary"
          aria-label={t('floor.giveTo', { name: seat.name })}
          onClick={() => void acts.giveFloor(seat.id)}
        >
          {t('floor.give')}
        </Button>
      )}
      {seat.note?.wantsToShow && (
        <Button
          small
          aria-label={t('exhibits.letOnceOf', { name: seat.name })}
          onClick={() => void wish({ do: 'letShowOnce', seats: [seat.id], may: true })}
        >
          {t('exhibits.letShort')}
        </Button>
      )}
      {seat.place === 'seated' && (
        <>
          <MicrophoneField seat={seat} />
          <CameraField seat={seat} />
        </>
      )}
      {holds ? (
        <span className="min-w-10 text-right text-[0.75rem]">
          <TurnClock />
        </span>
      ) : visit ? (
        <VisitClock visit={visit} />
      ) : (
        <Since seat={seat} />
      )}
    </li>
  )
})

function MicrophoneField({ seat }: { seat: SeatRow }) {
  const { t } = useTranslation()
  const state = { open: t('board.micOpen'), closed: t('board.micClosed'), byLeave: t('board.micByLeave') }[seat.microphone]
  const act = seat.microphone === 'open' ? t('act.mute') : seat.note?.consents ? t('act.unmute') : t('act.ask')
  return (
    <button
      aria-label={`${act} ${seat.name}, ${state}`}
      title={`${act} (${state})`}
      tabIndex={-1}
      onClick={() => void acts.muteOrAsk([seat])}
      className={clsx(
        'flex h-7 w-11 shrink-0 items-center justify-center gap-1 rounded-sm text-[0.75rem]',
        'hover:bg-felt-soft',
        seat.microphone === 'open' ? 'font-bold text-moss' : 'text-ink2',
        seat.microphone === 'closed' ? 'line-through' : '',
      )}
    >
      {seat.microphone === 'open' && <VoiceBar seat={seat.id} />}
      {t('board.mic')}
    </button>
  )
}

function CameraField({ seat }: { seat: SeatRow }) {
  const { t } = useTranslation()
  if (!seat.cameraOn)
    return seat.byPhone ? (
      <span className="w-8" />
    ) : (
      <span
        className="w-8 text-center text-[0.75rem] text-ink2 line-through max-[380px]:hidden @max-[18rem]:hidden"
        title={t('board.camOff')}
      >
        <span aria-hidden>{t('board.cam')}</span>
        <span className="sr-only">{t('board.camOff')}</span>
      </span>
    )
  return (
    <button
      aria-label={t('act.cameraOffOf', { name: seat.name })}
      title={`${t('act.cameraOff')} (${t('board.camOn')})`}
      tabIndex={-1}
      onClick={() => void acts.camerasOff([seat])}
      className="h-7 w-8 rounded-sm text-[0.75rem] hover:bg-felt-soft"
    >
      {t('board.cam')}
    </button>
  )
}

function Since({ seat }: { seat: SeatRow }) {
  const now = useNow()
  const { t } = useTranslation()
  const for_ = seat.hand !== null ? 'hand' : seat.place
  return (
    <time className="min-w-10 text-right text-[0.75rem] text-ink2 max-[380px]:hidden @max-[18rem]:hidden">
      <span className="sr-only">{t(`board.since.${for_}`)} </span>
      {clock(now - (seat.hand ?? seat.since))}
    </time>
  )
}

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

function useNote(seat: SeatRow): string | null {
  const { t } = useTranslation()
  const { summaryOf } = useRecognition()
  const now = useNow()
  const slow = useTrouble((state) => state.slow.includes(seat.id))
  const visits = useLive((state) => state.sitting?.visits)
  const leads = useLive((state) => state.sitting?.rooms.open.some((room) => room.leads.includes(seat.id)) ?? false)
  const note = seat.note
  if (!note) return null
  if (seat.place === 'gone') return note.exit ? t(`board.exit.${note.exit}`) : null
  if (note.looksLike !== null) return t('board.looksLike', { name: note.looksLike })
  if (!seat.connected && note.droppedAt !== null) return t('board.lost', { time: clock(now - note.droppedAt) })
  if (seat.place === 'lobby')
    return seat.role === 'attendee' ? summaryOf(note, seat.name) : t('board.waitsAs', { role: t(`role.${seat.role}`) })
  const said = [
    ...(seat.byPhone ? [t('board.byPhone')] : []),
    ...(slow ? [t('board.slow')] : []),
    ...(seat.state ? [t(`signs.state.${seat.state}`)] : []),
    ...(seat.hand !== null ? [t('floor.handUp')] : []),
    ...(note.voted === false ? [t('polls.hasNotVoted')] : []),
    ...(note.wantsToShow ? [t('exhibits.wants')] : note.showsOnce ? [t('exhibits.mayOnce')] : []),
  ]
  if (said.length > 0) return said.join(' · ')
  if (note.asked) return t('board.asked')
  if (note.hasLeave) return t('board.hasLeave')
  if (note.given.length + note.taken.length > 0) return t('board.excepted')
  if (leads) return t('rooms.leadsIt')
  if (seat.role !== 'attendee') return t(`role.${seat.role}`)
  if (visits?.on.some((visit) => visit.seat === seat.id))
    return visits.nextSlot === null ? t('visit.last') : t('visit.next', { time: timeOfDay(visits.nextSlot) })
  return note.line?.slot ? t('docket.slotAt', { time: timeOfDay(note.line.slot) }) : null
}

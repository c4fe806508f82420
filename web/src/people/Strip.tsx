import { clsx } from 'clsx'
import { Phone } from 'lucide-react'
import { memo } from 'react'
import { useTranslation } from 'react-i18next'
import type { BenchNote, SeatRow } from '../contract.generated'
import { clock } from '../i18n'
import { useNow } from '../live/time'
import { stripActs, stripCarries, stripClocks, stripWords } from '../topics/onBoard'
import { acts } from './acts'
import { useBay } from './useBoard'
import { PersonPanel } from './PersonPanel'
import { clickStrip, keyOnStrip } from './selection'
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
  const bay = useBay(seat)
  const count = stripClocks.map(({ use }) => use(seat)).find((one) => one !== null)
  const carry = stripCarries.map((use) => use(seat)).find((one) => one !== null)
  return (
    <li
      draggable={carry !== undefined}
      onDragStart={carry}
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
        {seat.note && height > 30 && <WordsLine seat={seat} note={seat.note} />}
      </button>
      {stripActs.map(({ at, Act }) => (
        <Act key={at} seat={seat} />
      ))}
      {seat.place === 'seated' && (
        <>
          <MicrophoneField seat={seat} />
          <CameraField seat={seat} />
        </>
      )}
      {count ?? <Since seat={seat} />}
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

/** Words of topics, as their numbers say; only the bench has any. */
function WordsLine({ seat, note }: { seat: SeatRow; note: BenchNote }) {
  const { t } = useTranslation()
  const said = stripWords.flatMap(({ at, use }) => {
    const words = use(seat, note, t)
    return words === null ? [] : [{ at, words }]
  })
  const first = said[0]
  if (!first?.words) return null
  const together = first.at >= 40 && first.at < 60
  const line = together ? said.flatMap(({ at, words }) => (at < 60 ? [words] : [])).join(' · ') : first.words
  return (
    <span
      title={line}
      className={clsx(
        'block overflow-hidden text-[0.719rem] text-ellipsis whitespace-nowrap [font-stretch:90%]',
        note.looksLike ? 'font-semibold text-brick' : 'text-ink2',
      )}
    >
      {line}
    </span>
  )
}

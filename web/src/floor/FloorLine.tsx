import { useTranslation } from 'react-i18next'
import type { MeRow } from '../contract.generated'
import { clock } from '../i18n'
import { wish } from '../live/connection'
import { useLive } from '../live/store'
import { useMedia } from '../media/engine'
import { acts } from '../people/acts'
import { useView } from '../picture/view'
import { Button } from '../ui/Button'
import { useTurn } from './turn'

/** Who has the floor or speaks now, who is next, and how many microphones are open. */
export function FloorLine({ me }: { me: MeRow }) {
  const { t } = useTranslation()
  const speaker = useMedia((state) => state.speaker)
  const seats = useLive((state) => state.seats)
  const queue = useLive((state) => state.sitting?.queue ?? null)
  const turn = useTurn()
  const hidden = useView((state) => state.hidden)
  const name = speaker === null ? undefined : seats.get(speaker)?.name
  const people = [...seats.values()].filter((seat) => seat.place === 'seated')
  const open = people.filter((seat) => seat.microphone === 'open').length
  const hands = people.filter((seat) => seat.hand !== null).length
  const next = queue?.[0] === undefined ? null : seats.get(queue[0])
  return (
    <div className="flex min-h-11 flex-wrap items-center gap-x-4 gap-y-1 py-1 whitespace-nowrap">
      <h2 className={turn ? 'sr-only' : 'font-serif text-[14px] font-semibold'}>{t('floor.title')}</h2>
      {turn ? (
        <p
          className={`border-l-4 pl-2 text-[14px] ${turn.warns ? 'border-brick' : 'border-moss'}`}
          data-floor={turn.seat}
          data-speaker={speaker ?? ''}
        >
          <strong className="font-semibold">
            {turn.seat === me.seat ? t('floor.yours') : t('floor.has', { name: turn.name })}
          </strong>{' '}
          <TurnClock />
        </p>
      ) : (
        <p
          className={`overflow-hidden text-[14px] text-ellipsis ${name ? 'font-semibold' : 'text-ink2'}`}
          data-speaker={speaker ?? ''}
        >
          {name ? t('floor.speaking', { name }) : t('floor.quiet')}
        </p>
      )}
      {turn?.seat === me.seat && me.role === 'host' && (
        <Button small onClick={() => void wish({ do: 'yieldFloor' })}>
          {t('floor.yield')}
        </Button>
      )}
      {me.may.includes('keepFloor') && turn && turn.seat !== me.seat && (
        <Button small aria-keyshortcuts="Shift+F" onClick={() => void acts.takeFloor()}>
          {t('floor.take')}
        </Button>
      )}
      {next && (
        <Button
          small
          look="primary"
          aria-keyshortcuts="f"
          aria-label={t('floor.giveTo', { name: next.name })}
          onClick={() => void acts.giveFloor()}
        >
          {t('floor.giveItTo', { name: next.name })}
        </Button>
      )}
      <p className={`ml-auto text-[13px] text-ink2 ${turn && next ? 'sr-only' : ''}`}>
        {hands > 0 && `${t('floor.hands', { count: hands })} · `}
        {t('floor.open', { count: open })}
        {hidden > 0 && ` · ${t('picture.more', { count: hidden })}`}
      </p>
    </div>
  )
}

/** "1:10 of 3:00"; what is over is said. */
export function TurnClock() {
  const { t } = useTranslation()
  const turn = useTurn()
  if (!turn) return null
  if (turn.seconds === null || turn.left === null) return <time>{clock(turn.spent)}</time>
  return (
    <span className={turn.warns ? 'font-semibold text-brick' : ''}>
      <time>
        {turn.left < 0
          ? t('floor.over', { time: clock(-turn.left) })
          : t('floor.of', { spent: clock(turn.spent), all: clock(turn.seconds * 1000) })}
      </time>
    </span>
  )
}

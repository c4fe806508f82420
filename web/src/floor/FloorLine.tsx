import { useTranslation } from 'react-i18next'
import type { MeRow } from '../contract.generated'
import { clock } from '../i18n'
import { wish } from '../live/connection'
import { useLive } from '../live/store'
import { useMedia } from '../media/engine'
import { acts } from '../people/acts'
import { toggleWide, useWide } from '../sittings/useWide'
import { useView } from '../picture/view'
import { isHere } from '../rooms/bays'
import { useKeymap } from '../settings/keymap'
import { Button } from '../ui/Button'
import { Panel } from '../ui/Panel'
import { useTurn } from './turn'

/** Who has the floor or speaks now, who is next, and how many microphones are open. */
export function FloorLine({ me }: { me: MeRow }) {
  const { t } = useTranslation()
  const speaker = useMedia((state) => state.speaker)
  const seats = useLive((state) => state.seats)
  const queue = useLive((state) => state.sitting?.hands.queue ?? null)
  const turn = useTurn()
  const hidden = useView((state) => state.hidden)
  const name = speaker === null ? undefined : seats.get(speaker)?.name
  const people = [...seats.values()].filter((seat) => isHere(seat, me))
  const open = people.filter((seat) => seat.microphone === 'open').length
  const hands = people.filter((seat) => seat.hand !== null).length
  const next = queue?.[0] === undefined ? null : seats.get(queue[0])
  return (
    // The rows keep their height whatever stands in them, so that the picture above never changes its size.
    <div
      className={`flex gap-x-6 py-1 whitespace-nowrap max-md:flex-col ${me.viewer === 'bench' ? 'flex-col 2xl:flex-row' : ''}`}
    >
      <div className="flex min-h-8 min-w-0 items-center gap-x-4">
        <p className={turn ? 'sr-only' : 'font-serif text-[0.875rem] font-semibold'}>{t('floor.title')}</p>
        {turn ? (
          <p
            className={`flex min-w-0 gap-1.5 border-l-4 pl-2 text-[0.875rem] ${turn.warns ? 'border-brick' : 'border-moss'}`}
            data-floor={turn.seat}
            data-speaker={speaker ?? ''}
          >
            <strong className="overflow-hidden font-semibold text-ellipsis">
              {turn.seat === me.seat ? t('floor.yours') : t('floor.has', { name: turn.name })}
            </strong>
            <TurnClock />
          </p>
        ) : (
          <p
            className={`overflow-hidden text-[0.875rem] text-ellipsis ${name ? 'font-semibold' : 'text-ink2'}`}
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
            className="max-w-52 shrink-0 overflow-hidden text-ellipsis"
            aria-keyshortcuts="f"
            aria-label={t('floor.giveTo', { name: next.name })}
            onClick={() => void acts.giveFloor()}
          >
            {t('floor.giveItTo', { name: next.name })}
          </Button>
        )}
      </div>
      <div className="@container flex min-h-8 min-w-0 flex-1 items-center gap-x-4">
        <TalkShares />
        <p className="ml-auto overflow-hidden text-[0.812rem] text-ellipsis text-ink2">
          {hands > 0 && `${t('floor.hands', { count: hands })} · `}
          {t('floor.open', { count: open })}
          {hidden > 0 && ` · ${t('picture.more', { count: hidden })}`}
        </p>
        {me.viewer === 'bench' && <Widen />}
      </div>
    </div>
  )
}

/** Gives the picture the room of the board and the side. */
function Widen() {
  const { t } = useTranslation()
  const wide = useWide((state) => state.wide)
  const key = useKeymap((state) => state.widen)
  if (wide) return null
  return (
    <Button small look="text" className="max-md:hidden" aria-keyshortcuts={key} onClick={toggleWide}>
      {t('wide.widen')}
    </Button>
  )
}

/** Who spoke how much of all that was said; for the bench, once there is something to compare. */
function TalkShares() {
  const { t } = useTranslation()
  const seats = useLive((state) => state.seats)
  const spoke = [...seats.values()]
    .filter((seat) => (seat.note?.talked ?? 0) >= 1000)
    .sort((a, b) => b.note!.talked - a.note!.talked)
  const all = spoke.reduce((sum, seat) => sum + seat.note!.talked, 0)
  if (all < 10_000) return null
  const share = (talked: number) => Math.round((100 * talked) / all)
  const shown = spoke.slice(0, 3)
  const words = shown.map((seat) => t('floor.share', { name: seat.name, percent: share(seat.note!.talked) }))
  return (
    <Panel
      title={t('floor.shares')}
      side="top"
      trigger={
        <button
          aria-label={`${t('floor.shares')}: ${words.join(', ')}`}
          className="flex min-h-7 min-w-0 items-center gap-2 text-[0.812rem] text-ink2 hover:text-ink"
        >
          <span aria-hidden className="flex h-2.5 w-24 overflow-hidden border border-line">
            {spoke.slice(0, 8).map((seat, at) => (
              <span
                key={seat.id}
                data-share
                className={at % 2 === 0 ? 'bg-felt-ink' : 'bg-seat'}
                style={{ width: `${(100 * seat.note!.talked) / all}%` }}
              />
            ))}
          </span>
          <span className="hidden overflow-hidden text-ellipsis @xl:inline">
            {t('floor.share', { name: shown[0]!.name, percent: share(shown[0]!.note!.talked) })}
          </span>
        </button>
      }
    >
      <table className="w-full text-[0.875rem]">
        <tbody>
          {spoke.map((seat) => (
            <tr key={seat.id} className="border-t border-line">
              <th scope="row" className="py-1 text-left font-medium">
                {seat.name}
              </th>
              <td className="py-1 text-right">{clock(seat.note!.talked)}</td>
              <td className="py-1 pl-3 text-right text-ink2">{t('floor.percent', { percent: share(seat.note!.talked) })}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Panel>
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

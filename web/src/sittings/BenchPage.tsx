import { clsx } from 'clsx'
import { useEffect, useRef, useState } from 'react'
import { useTranslation } from 'react-i18next'
import { playArrival } from '../admission/arrivals'
import { CommandLine } from '../commandLine/CommandLine'
import type { MeRow, SeatRow } from '../contract.generated'
import type { Sitting } from '../live/store'
import { TakeBackLine } from '../ledger/TakeBackLine'
import { onBench } from '../topics/onBench'
import { actsOf, Beside, Cards, lettersOf, PicturePlace, Watches } from '../topics/Slots'
import { Boundary } from '../ui/Boundary'
import { Notices } from './Notices'
import { OldPage } from './OldPage'
import { useSide } from './useSide'
import { useLive } from '../live/store'
import { silence, switches } from '../media/useOwnDevices'
import { Ribbon } from './Ribbon'
import { Picture } from '../picture/Picture'
import { toggleFullScreen } from '../picture/view'
import type { KeyAct } from '../settings/keymap'
import { useKeys } from '../settings/useKeys'
import { acts, waiting } from '../people/acts'
import { Board } from '../people/Board'
import { OwnStrip } from '../people/OwnStrip'
import { BoardRail } from '../people/BoardRail'
import { clearSelection, goToBay, selectShown, useSelection } from '../people/selection'
import { closeBoard, openBoard, toggleWide, useWide } from './useWide'

/** The host's console: ribbon, board, picture, side. */
export default function BenchPage({ me, sitting, id, link }: { me: MeRow; sitting: Sitting; id: string; link: string }) {
  const [side, setSide] = useSide('chat')
  const within = { me, sitting, id, link }
  const find = useRef<HTMLInputElement | null>(null)
  const line = useRef<HTMLInputElement>(null)
  const { wide, boardOver } = useWide()
  const [over, setOver] = useState<string | null>(null)
  const [shown, show] = wide ? [over, setOver] : [side, setSide]
  const boardAt = wide
    ? boardOver
      ? 'md:absolute md:top-0 md:bottom-[3.5rem] md:left-16 md:z-20 md:shadow-[4px_0_16px_rgb(0_0_0/0.18)]'
      : 'md:hidden'
    : ''
  useBenchKeys({
    find: () => find.current?.focus(),
    line: () => line.current?.focus(),
    acts: actsOf(onBench, within),
    letters: lettersOf(onBench, show),
    close: () => show(null),
  })
  return (
    <div className="flex h-dvh min-h-140 min-w-[320px] flex-col overflow-hidden max-md:h-auto max-md:overflow-visible">
      <Boundary place="ribbon">
        <Ribbon topics={onBench} within={within} bench />
      </Boundary>
      <OldPage />
      <ArrivalsSpoken />
      <Watches topics={onBench} within={within} show={show} />
      <div className="relative flex min-h-0 flex-1 max-md:flex-col">
        {wide && <BoardRail />}
        <div
          className={clsx(
            'flex w-[min(24.25rem,34vw)] min-w-0 shrink-0 flex-col border-r border-line bg-linen',
            'max-md:w-full max-md:flex-col-reverse lg:max-xl:w-[min(21.25rem,34vw)] md:max-lg:w-[18.75rem]',
            boardAt,
          )}
        >
          <Boundary place="board">
            <Board onFindRef={(input) => (find.current = input)} />
          </Boundary>
          <div className={`border-t-2 border-felt ${wide ? 'md:hidden' : ''}`}>
            <Boundary place="strip" onFailure={silence}>
              <OwnStrip me={me} />
            </Boundary>
          </div>
        </div>
        <main
          id="picture"
          tabIndex={-1}
          className={clsx(
            'flex outline-none min-w-0 flex-1 flex-col bg-linen px-3 pt-3 max-md:order-first max-md:min-h-96',
            wide ? 'md:mr-8' : '',
          )}
        >
          <Cards topics={onBench} within={within} place="above" />
          <Notices over />
          <PicturePlace topics={onBench} within={within}>
            <Boundary place="picture">
              <Picture me={me} />
            </Boundary>
          </PicturePlace>
          <Cards topics={onBench} within={within} place="below" />
          <div className="flex min-h-12 items-center gap-3 border-t border-line py-1.5 max-xl:flex-wrap">
            <CommandLine inputRef={line} />
            <TakeBackLine />
            {wide && (
              <div className="shrink-0 max-md:hidden">
                <OwnStrip me={me} short />
              </div>
            )}
          </div>
        </main>
        <Beside topics={onBench} within={within} over={wide} shown={shown} onShow={show} />
      </div>
    </div>
  )
}

interface Places {
  find: () => void
  line: () => void
  acts: Partial<Record<KeyAct, () => void>>
  letters: Record<string, () => void>
  close: () => void
}

/** Single keys of the bench, acting on the selection, or on the strip where one stands. */
function useBenchKeys({ find, line, acts: ofTopics, letters, close }: Places) {
  const panel = (name: 'role' | 'remove' | 'decline' | 'move') => () => {
    if (target().length > 0) useSelection.setState({ panel: name })
  }
  const bay = (label: string) => () => {
    openBoard()
    goToBay(label)
  }
  useKeys(
    {
      mic: switches.microphone,
      cam: switches.camera,
      hand: switches.hand,
      line,
      fullScreen: toggleFullScreen,
      admit: () => void acts.admit(target()),
      next: () => void acts.next(),
      sure: () => void acts.admitSure(),
      decline: panel('decline'),
      floor: () => void acts.giveFloor(target(false)[0]?.id ?? null),
      takeFloor: () => void acts.takeFloor(),
      mute: () => void acts.muteOrAsk(target()),
      muteAll: () => void acts.muteAll(false),
      role: panel('role'),
      lobby: () => void acts.sendToLobby(target()),
      remove: panel('remove'),
      moveTo: panel('move'),
      front: () => void acts.putInFront(target()),
      find: () => {
        openBoard()
        requestAnimationFrame(find)
      },
      widen: toggleWide,
      selectAll: selectShown,
      clear: () => {
        if (!closeBoard()) clearSelection()
      },
      ...ofTopics,
    },
    {
      l: bay('lobby'),
      f: bay('floor'),
      s: bay('seated'),
      g: bay('gone'),
      ...letters,
      x: close,
    },
  )
}

/** Those selected; when none is, the strip where one stands, unless only a selection counts. */
function target(orStrip = true): SeatRow[] {
  const { selected, at } = useSelection.getState()
  const { seats, me } = useLive.getState()
  if (!orStrip && selected.size === 0) return []
  if (selected.size === 0 && at !== null) useSelection.setState({ selected: new Set([at]) })
  const ids = selected.size > 0 ? [...selected] : at !== null ? [at] : []
  return ids.map((id) => seats.get(id)).filter((seat): seat is SeatRow => seat !== undefined && seat.id !== me?.seat)
}

/** Says who has come to the lobby, for those who do not see it. */
function ArrivalsSpoken() {
  const { t } = useTranslation()
  const seats = useLive((state) => state.seats)
  const known = useRef<Set<number> | null>(null)
  const [spoken, setSpoken] = useState('')
  useEffect(() => {
    const now = waiting([...seats.values()])
    const arrived = known.current ? now.filter((seat) => !known.current!.has(seat.id)) : []
    known.current = new Set(now.map((seat) => seat.id))
    if (arrived.length === 0) return
    playArrival()
    setSpoken(
      arrived.length > 3
        ? t('board.manyArrived', { count: now.length })
        : arrived.map((seat) => t('board.arrived', { name: seat.name })).join(' '),
    )
  }, [seats, t])
  return (
    <p role="status" className="sr-only">
      {spoken}
    </p>
  )
}

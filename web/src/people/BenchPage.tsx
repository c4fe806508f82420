import { useEffect, useRef, useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { MeRow, SeatRow, SittingRow } from '../contract.generated'
import { FloorLine } from '../floor/FloorLine'
import { LedgerSide } from '../ledger/LedgerSide'
import { TakeBackLine } from '../ledger/TakeBackLine'
import { wish } from '../live/connection'
import { Notices } from '../live/Notices'
import { useLive } from '../live/store'
import { useKeys } from '../live/useKeys'
import { switches } from '../media/useOwnDevices'
import { Ribbon } from '../orders/Ribbon'
import { Picture } from '../picture/Picture'
import { playArrival } from '../admission/arrivals'
import { acts, waiting } from './acts'
import { Asked } from './Asked'
import { Board } from './Board'
import { OwnStrip } from './OwnStrip'
import { clearSelection, useSelection } from './selection'

/** The host's console: ribbon, board, picture, side. */
export default function BenchPage({ me, sitting, link }: { me: MeRow; sitting: SittingRow; link: string }) {
  const { t } = useTranslation()
  const [doorOpen, setDoorOpen] = useState(false)
  const [keysOpen, setKeysOpen] = useState(false)
  const [side, setSide] = useState(true)
  const find = useRef<HTMLInputElement | null>(null)
  useBenchKeys({ door: () => setDoorOpen(true), help: () => setKeysOpen(true), find: () => find.current?.focus() })
  return (
    <div className="flex h-dvh min-h-[560px] min-w-[320px] flex-col overflow-hidden max-md:h-auto max-md:overflow-visible">
      <Ribbon
        me={me}
        sitting={sitting}
        link={link}
        doorOpen={doorOpen}
        onDoorOpen={setDoorOpen}
        keysOpen={keysOpen}
        onKeysOpen={setKeysOpen}
      />
      <Notices />
      <ArrivalsSpoken />
      <div className="flex min-h-0 flex-1 max-md:flex-col-reverse">
        <div className="flex w-[388px] min-w-0 shrink-0 flex-col border-r border-line max-md:w-full lg:max-xl:w-[340px] md:max-lg:w-[300px]">
          <Board onFindRef={(input) => (find.current = input)} />
          <div className="border-t-2 border-felt">
            <OwnStrip me={me} />
          </div>
        </div>
        <main className="flex min-w-0 flex-1 flex-col px-3 pt-3 max-md:min-h-96">
          <h1 className="sr-only">{sitting.title}</h1>
          <Asked me={me} host={sitting.hostName} />
          <Picture me={me} />
          <FloorLine me={me} />
          <TakeBackLine />
        </main>
        <aside className={`flex shrink-0 border-l border-line bg-paper max-lg:hidden ${side ? 'w-72' : ''}`}>
          {side && <LedgerSide />}
          <nav aria-label={t('ribbon.ledger')} className="w-8 border-l border-line bg-linen pt-2.5">
            <button
              aria-expanded={side}
              onClick={() => setSide(!side)}
              className={`flex w-8 items-center justify-center border-y border-line py-3 text-[13px] font-semibold [writing-mode:vertical-rl] ${side ? '-ml-px bg-paper' : 'text-ink2'}`}
            >
              {t('ribbon.ledger')}
            </button>
          </nav>
        </aside>
      </div>
    </div>
  )
}

/** Single keys of the bench, acting on the selection, or on the strip where one stands. */
function useBenchKeys({ door, help, find }: { door: () => void; help: () => void; find: () => void }) {
  const panel = (name: 'role' | 'remove' | 'decline') => () => {
    if (target().length > 0) useSelection.setState({ panel: name })
  }
  useKeys({
    '1': switches.microphone,
    '2': switches.camera,
    h: switches.hand,
    '?': help,
    a: () => void acts.admit(target()),
    n: () => void acts.next(),
    A: () => void acts.admitSure(),
    d: panel('decline'),
    f: () => void acts.giveFloor(target(false)[0]?.id ?? null),
    F: () => void acts.takeFloor(),
    q: () => void acts.muteOrAsk(target()),
    p: panel('role'),
    b: () => void acts.sendToLobby(target()),
    Delete: panel('remove'),
    l: door,
    s: find,
    Escape: clearSelection,
    'Ctrl+z': () => void wish({ do: 'takeBack' }),
  })
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

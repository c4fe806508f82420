import { clsx } from 'clsx'
import { useState } from 'react'
import type { MeRow } from '../contract.generated'
import type { Sitting } from '../live/store'
import { onBench } from '../topics/onBench'
import { actsOf, Beside, Cards, lettersOf, PicturePlace, Pieces, Watches } from '../topics/Slots'
import { Boundary } from '../ui/Boundary'
import { Notices } from './Notices'
import { OldPage } from './OldPage'
import { useSide } from './useSide'
import { silence } from '../media/useOwnDevices'
import { Ribbon } from './Ribbon'
import { Picture } from '../picture/Picture'
import { useKeys } from '../settings/useKeys'
import { Board } from '../people/Board'
import { OwnStrip } from '../people/OwnStrip'
import { BoardRail } from '../people/BoardRail'
import { toggleWide, useWide } from './useWide'

/** The host's console: ribbon, board, picture, side. */
export default function BenchPage({ me, sitting, id, link }: { me: MeRow; sitting: Sitting; id: string; link: string }) {
  const [side, setSide] = useSide('chat')
  const within = { me, sitting, id, link }
  const { wide, boardOver } = useWide()
  const [over, setOver] = useState<string | null>(null)
  const [shown, show] = wide ? [over, setOver] : [side, setSide]
  const boardAt = wide
    ? boardOver
      ? 'md:absolute md:top-0 md:bottom-[3.5rem] md:left-16 md:z-20 md:shadow-[4px_0_16px_rgb(0_0_0/0.18)]'
      : 'md:hidden'
    : ''
  useKeys({ ...actsOf(onBench, within), widen: toggleWide }, { ...lettersOf(onBench, show), x: () => show(null) })
  return (
    <div className="flex h-dvh min-h-140 min-w-[320px] flex-col overflow-hidden max-md:h-auto max-md:overflow-visible">
      <Boundary place="ribbon">
        <Ribbon topics={onBench} within={within} bench />
      </Boundary>
      <OldPage />
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
            <Board />
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
            <Pieces topics={onBench} within={within} place="foot" />
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

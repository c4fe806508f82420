import { atSeat } from '../topics/atSeat'
import { actsOf, Beside, Cards, PicturePlace, Pieces, Watches } from '../topics/Slots'
import { Boundary } from '../ui/Boundary'
import { silence } from '../media/useOwnDevices'
import { OldPage } from './OldPage'
import type { MeRow } from '../contract.generated'
import type { Sitting } from '../live/store'
import { Notices } from './Notices'
import { useSide } from './useSide'
import { Ribbon } from './Ribbon'
import { Picture } from '../picture/Picture'
import { useKeys } from '../settings/useKeys'
import { OwnStrip } from '../people/OwnStrip'

/** The page of a presenter or attendee: picture first, and one sentence that says what one may do. */
export function SeatPage({ me, sitting, id, link }: { me: MeRow; sitting: Sitting; id: string; link: string }) {
  const within = { me, sitting, id, link }
  const [side, setSide] = useSide('chat')
  useKeys(actsOf(atSeat, within))
  return (
    <div className="flex h-dvh min-h-140 flex-col max-md:h-auto max-md:min-h-dvh">
      <Boundary place="ribbon">
        <Ribbon topics={atSeat} within={within} />
      </Boundary>
      <OldPage />
      <Watches topics={atSeat} within={within} show={setSide} />
      <div className="flex min-h-0 flex-1 max-md:flex-col">
        <main
          id="picture"
          tabIndex={-1}
          className="flex min-h-0 min-w-0 flex-1 flex-col gap-1 bg-linen p-3 outline-none max-md:p-2"
        >
          <Cards topics={atSeat} within={within} place="above" />
          <Notices over />
          <PicturePlace topics={atSeat} within={within}>
            <Boundary place="picture">
              <Picture me={me} />
            </Boundary>
          </PicturePlace>
          <Cards topics={atSeat} within={within} place="below" />
          <div className="flex items-stretch gap-4 max-xl:flex-col max-xl:gap-2">
            <div className="max-w-152 min-w-96 border border-l-[5px] border-line border-l-seat max-md:min-w-0">
              <Boundary place="strip" onFailure={silence}>
                <OwnStrip me={me} />
              </Boundary>
            </div>
            <Pieces topics={atSeat} within={within} place="foot" />
          </div>
        </main>
        <Beside topics={atSeat} within={within} shown={side} onShow={setSide} />
      </div>
    </div>
  )
}

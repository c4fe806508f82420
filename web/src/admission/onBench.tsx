import { acts } from '../people/acts'
import { askFor, target } from '../people/selection'
import { openPanel } from '../sittings/panels'
import type { PageTopic, Within } from '../topics/slots'
import { AdjournButton } from './AdjournButton'
import { ArrivalsSpoken } from './ArrivalsSpoken'
import { DoorItem } from './DoorItem'
import { LeaveButton } from './LeaveButton'

function Ends({ me, sitting }: Within) {
  return (
    <>
      <LeaveButton me={me} />
      {me.may.includes('adjourn') && <AdjournButton sitting={sitting} />}
    </>
  )
}

export const admission: PageTopic = {
  ribbon: { at: 20, Item: DoorItem },
  ribbonEnd: { at: 40, Item: Ends },
  Watch: ArrivalsSpoken,
  acts: () => ({
    admit: () => void acts.admit(target()),
    sure: () => void acts.admitSure(),
    decline: askFor('decline'),
    lobby: () => void acts.sendToLobby(target()),
    door: () => openPanel('door'),
  }),
}

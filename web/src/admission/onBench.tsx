import { openPanel } from '../sittings/panels'
import type { PageTopic, Within } from '../topics/slots'
import { AdjournButton } from './AdjournButton'
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
  acts: () => ({ door: () => openPanel('door') }),
}

import { LeaveButton } from '../admission/LeaveButton'
import { captions } from '../captions/onPage'
import { chat } from '../chat/onPage'
import { ShownItem } from '../exhibits/ShownItem'
import { FloorLine } from '../floor/FloorLine'
import { FilesItem } from '../handouts/FilesItem'
import { OfferedFiles } from '../handouts/OfferedFiles'
import { LentBanner } from '../lending/LentBanner'
import { notes } from '../notes/onPage'
import { OwnRecorder } from '../ownRecording/OwnRecorder'
import { orders } from '../orders/atSeat'
import { Asked } from '../people/Asked'
import { own } from '../people/onPage'
import { picture } from '../picture/atSeat'
import { polls } from '../polls/atSeat'
import { ConsentCard } from '../recording/ConsentCard'
import { RecordedMark } from '../recording/RecordedMark'
import { rooms } from '../rooms/atSeat'
import { settings } from '../settings/onPage'
import { timing } from '../timing/atSeat'
import type { PageTopic } from './slots'

/** What topics add to the page of a presenter or attendee, an entry for each. */
export const atSeat: readonly PageTopic[] = [
  rooms,
  chat,
  timing,
  captions(false),
  settings(false),
  { ribbonEnd: { at: 40, Item: LeaveButton } },
  { ribbon: { at: 20, Item: ShownItem } },
  picture,
  orders,
  own,
  { below: { at: 10, Card: FloorLine } },
  { below: { at: 20, Card: LentBanner } },
  { ribbon: { at: 40, Item: FilesItem }, below: { at: 30, Card: OfferedFiles } },
  { below: { at: 40, Card: Asked } },
  { below: { at: 50, Card: OwnRecorder } },
  { ribbon: { at: 10, Item: RecordedMark }, below: { at: 60, Card: ConsentCard } },
  polls,
  notes,
]

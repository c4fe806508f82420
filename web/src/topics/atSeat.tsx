import { captions } from '../captions/onPage'
import { chat } from '../chat/onPage'
import { FloorLine } from '../floor/FloorLine'
import { OfferedFiles } from '../handouts/OfferedFiles'
import { LentBanner } from '../lending/LentBanner'
import { notes } from '../notes/onPage'
import { OwnRecorder } from '../ownRecording/OwnRecorder'
import { Asked } from '../people/Asked'
import { polls } from '../polls/atSeat'
import { ConsentCard } from '../recording/ConsentCard'
import { rooms } from '../rooms/atSeat'
import { timing } from '../timing/atSeat'
import type { PageTopic } from './slots'

/** What topics add to the page of a presenter or attendee, an entry for each. */
export const atSeat: readonly PageTopic[] = [
  rooms,
  chat,
  timing,
  captions(false),
  { below: { at: 10, Card: FloorLine } },
  { below: { at: 20, Card: LentBanner } },
  { below: { at: 30, Card: OfferedFiles } },
  { below: { at: 40, Card: Asked } },
  { below: { at: 50, Card: OwnRecorder } },
  { below: { at: 60, Card: ConsentCard } },
  polls,
  notes,
]

import { captions } from '../captions/onPage'
import { chat } from '../chat/onPage'
import { FloorLine } from '../floor/FloorLine'
import { OfferedFiles } from '../handouts/OfferedFiles'
import { ledger } from '../ledger/onBench'
import { LentBanner } from '../lending/LentBanner'
import { notes } from '../notes/onPage'
import { OwnRecorder } from '../ownRecording/OwnRecorder'
import { Asked } from '../people/Asked'
import { polls } from '../polls/onBench'
import { ConsentCard } from '../recording/ConsentCard'
import { rooms } from '../rooms/onBench'
import { runSheets } from '../runSheets/onBench'
import { timing } from '../timing/onBench'
import type { PageTopic } from './slots'

/** What topics add to the page of the bench, an entry for each. */
export const onBench: readonly PageTopic[] = [
  { above: { at: 10, Card: Asked } },
  { above: { at: 20, Card: OwnRecorder } },
  { above: { at: 30, Card: ConsentCard } },
  rooms,
  polls,
  { above: { at: 60, Card: LentBanner } },
  { above: { at: 70, Card: OfferedFiles } },
  chat,
  timing,
  { below: { at: 10, Card: FloorLine } },
  captions(true),
  runSheets,
  notes,
  ledger,
]

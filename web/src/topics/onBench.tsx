import { admission } from '../admission/onBench'
import { captions } from '../captions/onPage'
import { chat } from '../chat/onPage'
import { commandLine } from '../commandLine/onBench'
import { docket } from '../docket/onBench'
import { ShownItem } from '../exhibits/ShownItem'
import { floor } from '../floor/onBench'
import { FilesWord } from '../handouts/FilesItem'
import { OfferedFiles } from '../handouts/OfferedFiles'
import { ledger } from '../ledger/onBench'
import { LentBanner } from '../lending/LentBanner'
import { notes } from '../notes/onPage'
import { OwnRecorder } from '../ownRecording/OwnRecorder'
import { OrdersItem } from '../orders/OrderItems'
import { Asked } from '../people/Asked'
import { own, people } from '../people/onPage'
import { picture } from '../picture/onBench'
import { FactsItem } from '../planning/FactsItem'
import { polls } from '../polls/onBench'
import { ConsentCard } from '../recording/ConsentCard'
import { RecordingItem } from '../recording/RecordingItem'
import { rooms } from '../rooms/onBench'
import { runSheets } from '../runSheets/onBench'
import { settings } from '../settings/onPage'
import { openPanel } from '../sittings/panels'
import { timing } from '../timing/onBench'
import type { PageTopic } from './slots'

/** What topics add to the page of the bench, an entry for each. */
export const onBench: readonly PageTopic[] = [
  admission,
  { ribbon: { at: 30, Item: OrdersItem } },
  docket,
  floor,
  { ribbon: { at: 50, Item: ShownItem } },
  picture,
  own,
  people,
  commandLine,
  { ribbonEnd: { at: 20, Item: FactsItem } },
  { above: { at: 10, Card: Asked } },
  { above: { at: 20, Card: OwnRecorder } },
  {
    ribbon: { at: 60, Item: RecordingItem },
    above: { at: 30, Card: ConsentCard },
    acts: () => ({ record: () => openPanel('recording') }),
  },
  rooms,
  polls,
  { above: { at: 60, Card: LentBanner } },
  { ribbonEnd: { at: 10, Item: FilesWord }, above: { at: 70, Card: OfferedFiles } },
  chat,
  timing,
  settings(true),
  captions(true),
  runSheets,
  notes,
  ledger,
]

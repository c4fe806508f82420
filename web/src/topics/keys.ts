import { admissionKeys } from '../admission/keys'
import { captionsKeys } from '../captions/keys'
import { chatKeys } from '../chat/keys'
import { commandLineKeys } from '../commandLine/keys'
import { docketKeys } from '../docket/keys'
import { floorKeys } from '../floor/keys'
import { ledgerKeys } from '../ledger/keys'
import { peopleKeys } from '../people/keys'
import { pictureKeys } from '../picture/keys'
import { pollsKeys } from '../polls/keys'
import { recordingKeys } from '../recording/keys'
import { roomsKeys } from '../rooms/keys'
import { runSheetsKeys } from '../runSheets/keys'
import { settingsKeys } from '../settings/keys'
import { sittingsKeys } from '../sittings/keys'

/** The keys of the topics, a line for each. */
export const topicKeys = [
  admissionKeys,
  captionsKeys,
  chatKeys,
  commandLineKeys,
  docketKeys,
  floorKeys,
  ledgerKeys,
  peopleKeys,
  pictureKeys,
  pollsKeys,
  recordingKeys,
  roomsKeys,
  runSheetsKeys,
  settingsKeys,
  sittingsKeys,
] as const

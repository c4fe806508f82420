import type { RecordingFacet } from '../contract.generated'
import { useNow } from '../live/time'

/** How much has been recorded, in milliseconds, counting on while it runs. */
export function useRecorded(recording: RecordingFacet): number {
  const now = useNow()
  return recording.recorded + (recording.runsSince === null ? 0 : Math.max(0, now - recording.runsSince))
}

/** Something is on record, or will be again in a moment. */
export const isOn = (recording: RecordingFacet) => recording.phase === 'running' || recording.phase === 'paused'

/** It is on record, here or on the machine of somebody who is inside. */
export const isRecorded = (recording: RecordingFacet) => isOn(recording) || recording.own.length > 0

import type { TopicKeys } from '../topics/keyTypes'

export const recordingKeys = {
  bench: { record: ['r', 140] },
} as const satisfies TopicKeys

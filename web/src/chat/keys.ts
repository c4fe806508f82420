import type { TopicKeys } from '../topics/keyTypes'

export const chatKeys = {
  own: { write: ['c', 40] },
} as const satisfies TopicKeys

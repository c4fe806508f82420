import type { TopicKeys } from '../topics/keyTypes'

export const pollsKeys = {
  bench: { ask: ['y', 170] },
} as const satisfies TopicKeys

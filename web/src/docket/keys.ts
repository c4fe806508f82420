import type { TopicKeys } from '../topics/keyTypes'

export const docketKeys = {
  bench: { next: ['n', 30] },
} as const satisfies TopicKeys

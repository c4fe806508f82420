import type { TopicKeys } from '../topics/keyTypes'

export const sittingsKeys = {
  bench: { goTo: ['g', 220], widen: ['w', 240] },
} as const satisfies TopicKeys

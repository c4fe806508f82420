import type { TopicKeys } from '../topics/keyTypes'

export const ledgerKeys = {
  bench: { takeBack: ['Ctrl+z', 230] },
} as const satisfies TopicKeys

import type { TopicKeys } from '../topics/keyTypes'

export const runSheetsKeys = {
  bench: { nextItem: ['i', 160] },
} as const satisfies TopicKeys

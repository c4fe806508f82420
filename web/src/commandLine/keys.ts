import type { TopicKeys } from '../topics/keyTypes'

export const commandLineKeys = {
  bench: { line: ['/', 210] },
} as const satisfies TopicKeys

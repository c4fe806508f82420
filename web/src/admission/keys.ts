import type { TopicKeys } from '../topics/keyTypes'

export const admissionKeys = {
  bench: { admit: ['a', 10], sure: ['A', 20], decline: ['d', 40], lobby: ['b', 100], door: ['l', 130] },
} as const satisfies TopicKeys

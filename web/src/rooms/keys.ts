import type { TopicKeys } from '../topics/keyTypes'

export const roomsKeys = {
  bench: { moveTo: ['m', 110] },
  own: { callBench: ['o', 70] },
} as const satisfies TopicKeys

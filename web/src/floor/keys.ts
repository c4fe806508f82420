import type { TopicKeys } from '../topics/keyTypes'

export const floorKeys = {
  bench: { floor: ['f', 50], takeFloor: ['F', 60] },
  own: { hand: ['h', 30] },
} as const satisfies TopicKeys

import type { TopicKeys } from '../topics/keyTypes'

export const pictureKeys = {
  bench: { front: ['v', 180] },
  own: { fullScreen: ['x', 60] },
} as const satisfies TopicKeys

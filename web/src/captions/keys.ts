import type { TopicKeys } from '../topics/keyTypes'

export const captionsKeys = {
  own: { captions: ['t', 50] },
} as const satisfies TopicKeys

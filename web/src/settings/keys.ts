import type { TopicKeys } from '../topics/keyTypes'

export const settingsKeys = {
  own: { help: ['?', 80] },
} as const satisfies TopicKeys

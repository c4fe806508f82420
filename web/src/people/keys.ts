import type { TopicKeys } from '../topics/keyTypes'

export const peopleKeys = {
  bench: {
    mute: ['q', 70],
    muteAll: ['Q', 80],
    role: ['p', 90],
    remove: ['Delete', 120],
    find: ['s', 150],
    selectAll: ['Ctrl+a', 190],
    clear: ['Escape', 200],
  },
  own: { mic: ['1', 10], cam: ['2', 20] },
} as const satisfies TopicKeys

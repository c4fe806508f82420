import { wish } from '../live/connection'
import type { PageTopic } from '../topics/slots'
import { RoomPlace } from './RoomPlace'

export const rooms: PageTopic = {
  above: { at: 10, Card: RoomPlace },
  acts: ({ me }) => ({
    callBench: () => {
      if (me.room !== null) void wish({ do: 'callBench', on: true })
    },
  }),
}

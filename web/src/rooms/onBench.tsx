import { useLive } from '../live/store'
import { askFor } from '../people/selection'
import type { PageTopic, Within } from '../topics/slots'
import { RoomPlace } from './RoomPlace'
import { RoomsSide } from './RoomsSide'

export const rooms: PageTopic = {
  above: { at: 40, Card: RoomPlace },
  beside: {
    at: 40,
    key: 'rooms',
    letter: 'm',
    label: (t) => t('rooms.title'),
    useCount: () => useLive((state) => state.sitting?.rooms.open.filter((room) => room.called !== null).length ?? 0),
    Content: ({ id, sitting }: Within) => <RoomsSide id={id} sitting={sitting} />,
  },
  acts: () => ({ moveTo: askFor('move') }),
}

import { acts } from '../people/acts'
import { target } from '../people/selection'
import type { PageTopic } from '../topics/slots'
import { FloorItem } from './FloorItem'
import { FloorLine } from './FloorLine'

export const floor: PageTopic = {
  ribbon: { at: 40, Item: FloorItem },
  below: { at: 10, Card: FloorLine },
  acts: () => ({
    floor: () => void acts.giveFloor(target(false)[0]?.id ?? null),
    takeFloor: () => void acts.takeFloor(),
  }),
}

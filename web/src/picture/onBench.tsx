import { acts } from '../people/acts'
import { target } from '../people/selection'
import type { PageTopic } from '../topics/slots'
import { picture as atSeat } from './atSeat'

export const picture: PageTopic = {
  ribbon: { ...atSeat.ribbon!, at: 70 },
  acts: (within) => ({ ...atSeat.acts!(within), front: () => void acts.putInFront(target()) }),
}

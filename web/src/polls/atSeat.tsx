import type { PageTopic } from '../topics/slots'
import { PollPlace } from './PollPlace'

export const polls: PageTopic = { below: { at: 70, Card: PollPlace } }

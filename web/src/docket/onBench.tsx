import { acts } from '../people/acts'
import type { PageTopic } from '../topics/slots'

export const docket: PageTopic = { acts: () => ({ next: () => void acts.next() }) }

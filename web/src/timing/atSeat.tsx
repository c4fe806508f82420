import type { PageTopic } from '../topics/slots'
import { Holding } from './Holding'

export const timing: PageTopic = {
  instead: ({ sitting }) => sitting.time.recess && <Holding recess={sitting.time.recess} />,
}

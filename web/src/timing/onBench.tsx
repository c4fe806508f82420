import type { PageTopic, Within } from '../topics/slots'
import { RecessBanner } from './Holding'
import { useEndWarnings } from './left'

function Watch() {
  useEndWarnings()
  return null
}

export const timing: PageTopic = {
  above: { at: 90, Card: ({ sitting }: Within) => sitting.time.recess && <RecessBanner recess={sitting.time.recess} /> },
  Watch,
}

import type { PageTopic, Within } from '../topics/slots'
import { BeginItem } from './BeginItem'
import { RecessBanner } from './Holding'
import { useEndWarnings } from './left'

function Watch() {
  useEndWarnings()
  return null
}

export const timing: PageTopic = {
  ribbon: { at: 10, Item: BeginItem },
  above: { at: 90, Card: ({ sitting }: Within) => sitting.time.recess && <RecessBanner recess={sitting.time.recess} /> },
  Watch,
}

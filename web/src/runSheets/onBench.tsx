import { wish } from '../live/connection'
import type { PageTopic, Within } from '../topics/slots'
import { RunSheetSide } from './RunSheetSide'

export const runSheets: PageTopic = {
  beside: {
    at: 20,
    key: 'sheet',
    letter: 'r',
    label: (t) => t('runSheet.title'),
    Content: ({ sitting }: Within) => <RunSheetSide sitting={sitting} />,
  },
  acts: () => ({ nextItem: () => void wish({ do: 'nextItem' }) }),
}

import { wish } from '../live/connection'
import type { PageTopic, Within } from '../topics/slots'
import { LedgerSide } from './LedgerSide'
import { TakeBackLine } from './TakeBackLine'

export const ledger: PageTopic = {
  beside: {
    at: 70,
    key: 'ledger',
    letter: 'e',
    label: (t) => t('ribbon.ledger'),
    Content: ({ id }: Within) => <LedgerSide sitting={id} />,
  },
  foot: { at: 20, Item: TakeBackLine },
  acts: () => ({ takeBack: () => void wish({ do: 'takeBack' }) }),
}

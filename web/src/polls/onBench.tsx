import { wish } from '../live/connection'
import type { PageTopic, Within } from '../topics/slots'
import { PollPlace } from './PollPlace'
import { PollsSide } from './PollsSide'
import { newForm } from './words'

export const polls: PageTopic = {
  above: { at: 50, Card: PollPlace },
  beside: {
    at: 30,
    key: 'polls',
    letter: 'p',
    label: (t) => t('polls.title'),
    Content: ({ sitting }: Within) => <PollsSide sitting={sitting} />,
  },
  acts: () => ({ ask: () => void wish({ do: 'openPoll', form: newForm('yesOrNo') }) }),
}

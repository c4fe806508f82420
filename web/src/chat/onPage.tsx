import type { PageTopic, Show, Within } from '../topics/slots'
import { ChatSide } from './ChatSide'
import { PutUpBanner } from './PutUpBanner'
import { startWriting, useUnread, useWriting } from './store'

function Watch({ show }: { show: Show }) {
  useWriting(() => show('chat'))
  return null
}

export const chat: PageTopic = {
  above: { at: 80, Card: PutUpBanner },
  beside: {
    at: 10,
    key: 'chat',
    letter: 'c',
    label: (t) => t('chat.title'),
    useCount: useUnread,
    Content: ({ me, id }: Within) => <ChatSide me={me} sitting={id} />,
  },
  Watch,
  acts: () => ({ write: startWriting }),
}

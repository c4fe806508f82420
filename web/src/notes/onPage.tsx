import type { PageTopic, Within } from '../topics/slots'
import { NotesSide } from './NotesSide'

export const notes: PageTopic = {
  beside: {
    at: 50,
    key: 'notes',
    letter: 'n',
    label: (t) => t('notes.title'),
    Content: ({ id, sitting }: Within) => <NotesSide sitting={id} title={sitting.session.title} />,
  },
}

import type { BoardTopic } from '../topics/boardSlots'

export const polls: BoardTopic = {
  words: [{ at: 44, use: (_, note, t) => (note.voted === false ? t('polls.hasNotVoted') : null) }],
}

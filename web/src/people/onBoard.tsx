import { clock } from '../i18n'
import { useNow } from '../live/time'
import type { BoardTopic } from '../topics/boardSlots'
import { Devices, Hint, MuteMany, Places, Remove } from './HeadActs'
import { useTrouble } from './trouble'

export const people: BoardTopic = {
  words: [
    {
      at: 30,
      use: (seat, note, t) => {
        const now = useNow()
        return !seat.connected && note.droppedAt !== null ? t('board.lost', { time: clock(now - note.droppedAt) }) : null
      },
    },
    { at: 40, use: (seat, _, t) => (seat.byPhone ? t('board.byPhone') : null) },
    {
      at: 41,
      use: (seat, _, t) => (useTrouble((state) => state.slow.includes(seat.id)) ? t('board.slow') : null),
    },
    { at: 60, use: (_, note, t) => (note.asked ? t('board.asked') : note.hasLeave ? t('board.hasLeave') : null) },
    { at: 80, use: (seat, _, t) => (seat.role === 'attendee' ? null : t(`role.${seat.role}`)) },
  ],
  forAll: [
    { at: 5, Act: Hint },
    { at: 30, Act: MuteMany },
  ],
  forChosen: [
    { at: 20, Act: Devices },
    { at: 30, Act: Places },
    { at: 60, Act: Remove },
  ],
}

import { useTranslation } from 'react-i18next'
import { useRecognition } from '../docket/useRecognition'
import { acts } from '../people/acts'
import type { BoardTopic, OfSeat } from '../topics/boardSlots'
import { Button } from '../ui/Button'
import { AdmitSure, ForWaiting } from './HeadActs'

function Admit({ seat }: OfSeat) {
  const { t } = useTranslation()
  return (
    seat.place === 'lobby' && (
      <Button
        small
        look="primary"
        aria-label={`${t('act.admit')} ${seat.name}`}
        onClick={() => void acts.admit([seat], seat.role === 'host' ? 'deputy' : seat.role)}
      >
        {t('act.admit')}
      </Button>
    )
  )
}

export const admission: BoardTopic = {
  words: [
    {
      at: 10,
      use: (seat, note, t) => (seat.place === 'gone' ? (note.exit ? t(`board.exit.${note.exit}`) : '') : null),
    },
    { at: 20, use: (_, note, t) => (note.looksLike === null ? null : t('board.looksLike', { name: note.looksLike })) },
    {
      at: 35,
      use: (seat, note, t) => {
        const { summaryOf } = useRecognition()
        if (seat.place !== 'lobby') return null
        return seat.role === 'attendee'
          ? (summaryOf(note, seat.name) ?? '')
          : t('board.waitsAs', { role: t(`role.${seat.role}`) })
      },
    },
  ],
  act: { at: 10, Act: Admit },
  forAll: [{ at: 20, Act: AdmitSure }],
  forChosen: [{ at: 10, Act: ForWaiting }],
}

import { useTranslation } from 'react-i18next'
import { useLive } from '../live/store'
import { acts } from '../people/acts'
import type { BoardTopic, OfSeat } from '../topics/boardSlots'
import { Button } from '../ui/Button'
import { TurnClock } from './FloorLine'

function Give({ seat }: OfSeat) {
  const { t } = useTranslation()
  return (
    seat.hand !== null && (
      <Button
        small
        look="primary"
        aria-label={t('floor.giveTo', { name: seat.name })}
        onClick={() => void acts.giveFloor(seat.id)}
      >
        {t('floor.give')}
      </Button>
    )
  )
}

export const floor: BoardTopic = {
  words: [{ at: 43, use: (seat, _, t) => (seat.hand === null ? null : t('floor.handUp')) }],
  act: { at: 20, Act: Give },
  clock: {
    at: 10,
    use: (seat) =>
      useLive((state) => state.sitting?.floor.turn?.seat === seat.id) ? (
        <span className="min-w-10 text-right text-[0.75rem]">
          <TurnClock />
        </span>
      ) : null,
  },
}

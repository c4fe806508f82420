import { useTranslation } from 'react-i18next'
import type { SeatRow } from '../contract.generated'
import { wish } from '../live/connection'
import type { BoardTopic } from '../topics/boardSlots'
import { Button } from '../ui/Button'

function ClearStates({ people }: { people: readonly SeatRow[] }) {
  const { t } = useTranslation()
  const count = people.filter((seat) => seat.state !== null).length
  return (
    count > 0 && (
      <Button small look="text" onClick={() => void wish({ do: 'clearStates' })}>
        {t('act.clearStates', { count })}
      </Button>
    )
  )
}

export const signs: BoardTopic = {
  words: [{ at: 42, use: (seat, _, t) => (seat.state ? t(`signs.state.${seat.state}`) : null) }],
  forAll: [{ at: 40, Act: ClearStates }],
}

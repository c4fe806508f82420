import { useTranslation } from 'react-i18next'
import { wish } from '../live/connection'
import type { BoardTopic, OfSeat } from '../topics/boardSlots'
import { Button } from '../ui/Button'

function LetOnce({ seat }: OfSeat) {
  const { t } = useTranslation()
  return (
    seat.note?.wantsToShow && (
      <Button
        small
        aria-label={t('exhibits.letOnceOf', { name: seat.name })}
        onClick={() => void wish({ do: 'letShowOnce', seats: [seat.id], may: true })}
      >
        {t('exhibits.letShort')}
      </Button>
    )
  )
}

export const exhibits: BoardTopic = {
  words: [
    {
      at: 45,
      use: (_, note, t) => (note.wantsToShow ? t('exhibits.wants') : note.showsOnce ? t('exhibits.mayOnce') : null),
    },
  ],
  act: { at: 30, Act: LetOnce },
}

import { useTranslation } from 'react-i18next'
import type { SeatRow } from '../contract.generated'
import { ActButton } from '../people/ActButton'
import { seated } from '../people/acts'
import type { BoardTopic } from '../topics/boardSlots'
import { ExceptionForm } from './ExceptionForm'

function Except({ chosen }: { chosen: readonly SeatRow[] }) {
  const { t } = useTranslation()
  if (!seated(chosen).some((seat) => seat.role !== 'host')) return null
  return (
    <ActButton panel="orders" label={t('act.orders')}>
      {() => <ExceptionForm chosen={chosen} />}
    </ActButton>
  )
}

export const orders: BoardTopic = {
  words: [{ at: 65, use: (_, note, t) => (note.given.length + note.taken.length > 0 ? t('board.excepted') : null) }],
  forChosen: [{ at: 40, Act: Except }],
}

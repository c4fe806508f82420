import { useTranslation } from 'react-i18next'
import type { SeatRow } from '../contract.generated'
import { useLive } from '../live/store'
import { ActButton } from '../people/ActButton'
import { seated } from '../people/acts'
import type { BoardTopic } from '../topics/boardSlots'
import { carry } from './DropBay'
import { MoveForm } from './MoveForm'

const useHasRooms = () =>
  useLive(({ sitting }) => sitting !== null && (sitting.rooms.open.length > 0 || sitting.rooms.draft !== null))

function Move({ chosen }: { chosen: readonly SeatRow[] }) {
  const { t } = useTranslation()
  if (!useHasRooms() || !seated(chosen).some((seat) => seat.role !== 'host')) return null
  return (
    <ActButton panel="move" label={t('act.move')}>
      {(close) => <MoveForm chosen={chosen} onDone={close} />}
    </ActButton>
  )
}

export const rooms: BoardTopic = {
  words: [
    {
      at: 70,
      use: (seat, _, t) =>
        useLive((state) => state.sitting?.rooms.open.some((room) => room.leads.includes(seat.id)) ?? false)
          ? t('rooms.leadsIt')
          : null,
    },
  ],
  useCarry: (seat) => (useHasRooms() && seat.place === 'seated' ? (event) => carry(event.dataTransfer, seat.id) : null),
  forChosen: [{ at: 50, Act: Move }],
}

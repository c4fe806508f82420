import { useTranslation } from 'react-i18next'
import type { SeatRow } from '../contract.generated'
import { wish } from '../live/connection'
import { useLive } from '../live/store'
import { Button } from '../ui/Button'
import { baysOf } from './bays'

/** Where the selection goes: a button for each room, and for the hall. */
export function MoveForm({ chosen, onDone }: { chosen: readonly SeatRow[]; onDone: () => void }) {
  const { t } = useTranslation()
  const rooms = useLive((state) => state.sitting?.rooms)
  if (!rooms) return null
  const seats = chosen.filter((seat) => seat.place === 'seated').map((seat) => seat.id)
  const move = (room: number | null) => void wish({ do: 'moveToRoom', seats, room }).then((done) => done && onDone())
  return (
    <div className="flex max-h-80 flex-col items-stretch gap-1.5 overflow-y-auto">
      {baysOf(t, rooms, [])
        .sort((a, b) => a.room - b.room)
        .map((bay) => (
          <Button key={bay.room} onClick={() => move(bay.room)}>
            {bay.name}
          </Button>
        ))}
      <Button onClick={() => move(null)}>{t(rooms.open.length > 0 ? 'rooms.toHall' : 'rooms.outOfPlan')}</Button>
    </div>
  )
}

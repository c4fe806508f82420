import { clsx } from 'clsx'
import { useState, type ReactNode } from 'react'
import { wish } from '../live/connection'
import { useSelection } from '../people/selection'

const kind = 'application/x-hold-court-seats'

/** Those whose strips are carried: the selection, or the one strip that was taken hold of. */
export function carry(data: DataTransfer, seat: number) {
  const { selected } = useSelection.getState()
  data.setData(kind, JSON.stringify(selected.has(seat) ? [...selected] : [seat]))
  data.effectAllowed = 'move'
}

/** Where strips can be let go to be moved there. */
export function DropBay({ room, children }: { room: number | null | undefined; children: ReactNode }) {
  const [over, setOver] = useState(false)
  if (room === undefined) return children
  return (
    <div
      data-drop={room ?? 'hall'}
      onDragOver={(event) => {
        if (!event.dataTransfer.types.includes(kind)) return
        event.preventDefault()
        setOver(true)
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        setOver(false)
        const seats = event.dataTransfer.getData(kind)
        if (!seats) return
        event.preventDefault()
        void wish({ do: 'moveToRoom', seats: JSON.parse(seats) as number[], room })
      }}
      className={clsx(over && 'bg-felt-soft outline-2 outline-felt-ink')}
    >
      {children}
    </div>
  )
}

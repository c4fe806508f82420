import { useEffect, useRef, useState } from 'react'
import { useTranslation } from 'react-i18next'
import { useLive } from '../live/store'
import { waiting } from '../people/acts'
import { playArrival } from './arrivals'

/** Says who has come to the lobby, for those who do not see it. */
export function ArrivalsSpoken() {
  const { t } = useTranslation()
  const seats = useLive((state) => state.seats)
  const known = useRef<Set<number> | null>(null)
  const [spoken, setSpoken] = useState('')
  useEffect(() => {
    const now = waiting([...seats.values()])
    const arrived = known.current ? now.filter((seat) => !known.current!.has(seat.id)) : []
    known.current = new Set(now.map((seat) => seat.id))
    if (arrived.length === 0) return
    playArrival()
    setSpoken(
      arrived.length > 3
        ? t('board.manyArrived', { count: now.length })
        : arrived.map((seat) => t('board.arrived', { name: seat.name })).join(' '),
    )
  }, [seats, t])
  return (
    <p role="status" className="sr-only">
      {spoken}
    </p>
  )
}

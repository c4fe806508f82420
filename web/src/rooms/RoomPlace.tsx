import { lazy, Suspense } from 'react'
import type { MeRow } from '../contract.generated'
import type { Sitting } from '../live/store'

const RoomLine = lazy(() => import('./RoomLine'))

/** Where one is, or goes: nothing is loaded for it before there are rooms. */
export function RoomPlace({ me, sitting }: { me: MeRow; sitting: Sitting }) {
  if (!sitting.rooms.anyOpen) return null
  return (
    <Suspense>
      <RoomLine me={me} sitting={sitting} />
    </Suspense>
  )
}

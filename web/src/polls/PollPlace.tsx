import { lazy, Suspense } from 'react'
import type { MeRow } from '../contract.generated'
import type { Sitting } from '../live/store'

const PollCard = lazy(() => import('./PollCard'))
const ShownResult = lazy(() => import('./ShownResult'))

/** Where a question is answered, and a result is seen; nothing is loaded for it before there is one. */
export function PollPlace({ me, sitting }: { me: MeRow; sitting: Sitting }) {
  const { open, over } = sitting.polls
  // A new question takes the place of an old answer.
  const shown = open ? undefined : over.filter((poll) => poll.shown).at(-1)
  if (!open && !shown) return null
  const ballot = me.ballot?.poll === open?.number ? me.ballot : null
  return (
    <Suspense>
      {open && (me.viewer !== 'bench' || ballot?.may) && (
        <PollCard key={open.number} poll={open} ballot={ballot} aside={me.viewer === 'bench'} />
      )}
      {shown && <ShownResult key={shown.number} poll={shown} />}
    </Suspense>
  )
}

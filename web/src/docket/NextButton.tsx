import { useTranslation } from 'react-i18next'
import { useLive } from '../live/store'
import { acts } from '../people/acts'
import { Button } from '../ui/Button'

/** Closes the visit that is on, and calls the next person: one action. */
export function NextButton() {
  const { t } = useTranslation()
  const hasSlots = useLive((state) => state.sitting?.visits.hasSlots && state.sitting.session.phase === 'inSession')
  const name = useLive((state) => (state.sitting?.visits.next ? state.seats.get(state.sitting.visits.next)?.name : null))
  const visiting = useLive((state) =>
    [...state.seats.values()].some((seat) => seat.place === 'seated' && seat.role === 'attendee'),
  )
  if (!hasSlots) return null
  return (
    <Button small look="primary" aria-keyshortcuts="n" disabled={!name && !visiting} onClick={() => void acts.next()}>
      {name ? t('docket.next', { name }) : visiting ? t('docket.closeVisit') : t('docket.nobodyNext')}
    </Button>
  )
}

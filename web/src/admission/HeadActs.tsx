import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { SeatRow } from '../contract.generated'
import { useLive } from '../live/store'
import { ActButton, Roles } from '../people/ActButton'
import { acts, waiting } from '../people/acts'
import { Button } from '../ui/Button'
import { Words } from '../ui/Field'

export function AdmitSure({ people }: { people: readonly SeatRow[] }) {
  const { t } = useTranslation()
  const hasSlots = useLive((state) => state.sitting?.visits.hasSlots)
  const sure = waiting(people).filter((seat) => seat.note?.recognition.match === 'sure').length
  return (
    sure > 0 && (
      <Button small look={hasSlots ? 'plain' : 'primary'} onClick={() => void acts.admitSure()}>
        {t('act.admitSure', { count: sure })}
      </Button>
    )
  )
}

/** For those of the chosen who wait. */
export function ForWaiting({ chosen }: { chosen: readonly SeatRow[] }) {
  const { t } = useTranslation()
  const count = waiting(chosen).length
  if (count === 0) return null
  return (
    <>
      <Button small look="primary" onClick={() => void acts.admit(chosen)}>
        {t('act.admitMany', { count })}
      </Button>
      <ActButton panel="admitAs" label={t('act.admitAs')}>
        {(close) => (
          <Roles
            label={(role) => t('act.admitRole', { role: t(`role.${role}`) })}
            onChoose={(role) => void acts.admit(chosen, role).then(close)}
          />
        )}
      </ActButton>
      <ActButton panel="decline" label={t('act.declineMany', { count })}>
        {(close) => <DeclineForm chosen={chosen} onDone={close} />}
      </ActButton>
    </>
  )
}

function DeclineForm({ chosen, onDone }: { chosen: readonly SeatRow[]; onDone: () => void }) {
  const { t } = useTranslation()
  const [words, setWords] = useState('')
  return (
    <div className="flex flex-col gap-2">
      <Words label={t('act.declineWords')} value={words} onChange={(e) => setWords(e.target.value)} />
      <Button look="end" className="self-start" onClick={() => void acts.decline(chosen, words).then(onDone)}>
        {t('act.declineDo')}
      </Button>
    </div>
  )
}

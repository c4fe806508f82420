import { useTranslation } from 'react-i18next'
import type { SeatRow } from '../contract.generated'
import { useLive } from '../live/store'
import { Button } from '../ui/Button'
import { ActButton, Roles } from './ActButton'
import { acts, askable, consenting, filmed, open, present, seated } from './acts'

interface Chosen {
  chosen: readonly SeatRow[]
}

const notHost = (seats: readonly SeatRow[]) => seats.filter((seat) => seat.role !== 'host')

/** What selecting is for, while there is nothing more urgent to do. */
export function Hint({ people }: { people: readonly SeatRow[] }) {
  const { t } = useTranslation()
  const hasSlots = useLive((state) => state.sitting?.visits.hasSlots)
  const calls = people.some((seat) => seat.state !== null || (seat.place === 'lobby' && seat.note?.recognition.match === 'sure'))
  return !hasSlots && !calls && <p className="basis-full text-[0.781rem] text-ink2">{t('board.hint')}</p>
}

export function MuteMany({ people }: { people: readonly SeatRow[] }) {
  const { t } = useTranslation()
  const anyOpen = open(people).length > 0
  return (
    <>
      <Button small disabled={!anyOpen} onClick={() => void acts.muteAll(false)}>
        {t('act.muteAttendees')}
      </Button>
      <Button small disabled={!anyOpen} onClick={() => void acts.muteAll(true)}>
        {t('act.muteEveryone')}
      </Button>
    </>
  )
}

export function Devices({ chosen }: Chosen) {
  const { t } = useTranslation()
  const all = [
    { text: 'act.muteMany', count: open(chosen).length, act: acts.mute },
    { text: 'act.unmuteMany', count: consenting(chosen).length, act: acts.unmute },
    { text: 'act.askMany', count: askable(chosen).length, act: acts.ask },
    { text: 'act.cameraOffMany', count: filmed(chosen).length, act: acts.camerasOff },
  ]
  return all.map(({ text, count, act }) =>
    count === 0 ? null : (
      <Button key={text} small onClick={() => void act(chosen)}>
        {t(text, { count })}
      </Button>
    ),
  )
}

export function Places({ chosen }: Chosen) {
  const { t } = useTranslation()
  const count = notHost(seated(chosen)).length
  if (count === 0) return null
  return (
    <>
      <ActButton panel="role" label={t('act.role')}>
        {(close) => (
          <Roles
            label={(role) =>
              t({ attendee: 'act.makeAttendee', presenter: 'act.makePresenter', deputy: 'act.makeDeputy', host: '' }[role])
            }
            onChoose={(role) => void acts.giveRole(chosen, role).then(close)}
          />
        )}
      </ActButton>
      <Button small onClick={() => void acts.sendToLobby(chosen)}>
        {t('act.lobbyMany', { count })}
      </Button>
    </>
  )
}

export function Remove({ chosen }: Chosen) {
  const { t } = useTranslation()
  if (notHost(present(chosen)).length === 0) return null
  return (
    <ActButton panel="remove" label={t('act.removePanel')}>
      {(close) => (
        <div className="flex flex-col items-start gap-2">
          <Button look="end" onClick={() => void acts.remove(chosen, true).then(close)}>
            {t('act.removeBack')}
          </Button>
          <p className="mt-2 text-[0.844rem]">{t('act.removeGoodHint')}</p>
          <Button look="end" onClick={() => void acts.remove(chosen, false).then(close)}>
            {t('act.removeGood')}
          </Button>
        </div>
      )}
    </ActButton>
  )
}

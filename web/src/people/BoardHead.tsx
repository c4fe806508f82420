import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { Role, SeatRow } from '../contract.generated'
import { NextButton } from '../docket/NextButton'
import { wish } from '../live/connection'
import { useLive } from '../live/store'
import { Button } from '../ui/Button'
import { Words } from '../ui/Field'
import { Panel } from '../ui/Panel'
import { acts, askable, consenting, filmed, open, present, seated, waiting } from './acts'
import { MoveForm } from '../rooms/MoveForm'
import { ExceptionForm } from './ExceptionForm'
import { clearSelection, useSelection, type ActPanel } from './selection'

/** What can be done now, in words, with how many it touches. The head keeps its height, so that no strip moves under the hand. */
export function BoardHead({ people, chosen }: { people: readonly SeatRow[]; chosen: readonly SeatRow[] }) {
  const { t } = useTranslation()
  return (
    <div
      role="group"
      aria-label={t('board.actions')}
      className="flex min-h-[4.75rem] flex-wrap content-center items-center gap-x-1.5 gap-y-1 border-b border-line px-3 py-1"
    >
      {chosen.length > 0 ? <ForSelection chosen={chosen} /> : <ForAll people={people} />}
    </div>
  )
}

function ForAll({ people }: { people: readonly SeatRow[] }) {
  const { t } = useTranslation()
  const sure = waiting(people).filter((seat) => seat.note?.recognition.match === 'sure').length
  const anyOpen = open(people).length > 0
  const hasSlots = useLive((state) => state.sitting?.visits.hasSlots)
  const states = people.filter((seat) => seat.state !== null).length
  return (
    <>
      {!hasSlots && states === 0 && sure === 0 && <p className="basis-full text-[0.781rem] text-ink2">{t('board.hint')}</p>}
      <NextButton />
      {sure > 0 && (
        <Button small look={hasSlots ? 'plain' : 'primary'} onClick={() => void acts.admitSure()}>
          {t('act.admitSure', { count: sure })}
        </Button>
      )}
      <Button small disabled={!anyOpen} onClick={() => void acts.muteAll(false)}>
        {t('act.muteAttendees')}
      </Button>
      <Button small disabled={!anyOpen} onClick={() => void acts.muteAll(true)}>
        {t('act.muteEveryone')}
      </Button>
      {states > 0 && (
        <Button small look="text" onClick={() => void wish({ do: 'clearStates' })}>
          {t('act.clearStates', { count: states })}
        </Button>
      )}
    </>
  )
}

function ForSelection({ chosen }: { chosen: readonly SeatRow[] }) {
  const { t } = useTranslation()
  const hasRooms = useLive(({ sitting }) => sitting !== null && (sitting.rooms.open.length > 0 || sitting.rooms.draft !== null))
  const count = {
    waiting: waiting(chosen).length,
    open: open(chosen).length,
    consenting: consenting(chosen).length,
    askable: askable(chosen).length,
    filmed: filmed(chosen).length,
    seated: seated(chosen).filter((seat) => seat.role !== 'host').length,
    present: present(chosen).filter((seat) => seat.role !== 'host').length,
  }
  return (
    <>
      {count.waiting > 0 && (
        <>
          <Button small look="primary" onClick={() => void acts.admit(chosen)}>
            {t('act.admitMany', { count: count.waiting })}
          </Button>
          <ActButton panel="admitAs" label={t('act.admitAs')}>
            {(close) => (
              <Roles
                label={(role) => t('act.admitRole', { role: t(`role.${role}`) })}
                onChoose={(role) => void acts.admit(chosen, role).then(close)}
              />
            )}
          </ActButton>
          <ActButton panel="decline" label={t('act.declineMany', { count: count.waiting })}>
            {(close) => <DeclineForm chosen={chosen} onDone={close} />}
          </ActButton>
        </>
      )}
      {count.open > 0 && (
        <Button small onClick={() => void acts.mute(chosen)}>
          {t('act.muteMany', { count: count.open })}
        </Button>
      )}
      {count.consenting > 0 && (
        <Button small onClick={() => void acts.unmute(chosen)}>
          {t('act.unmuteMany', { count: count.consenting })}
        </Button>
      )}
      {count.askable > 0 && (
        <Button small onClick={() => void acts.ask(chosen)}>
          {t('act.askMany', { count: count.askable })}
        </Button>
      )}
      {count.filmed > 0 && (
        <Button small onClick={() => void acts.camerasOff(chosen)}>
          {t('act.cameraOffMany', { count: count.filmed })}
        </Button>
      )}
      {count.seated > 0 && (
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
            {t('act.lobbyMany', { count: count.seated })}
          </Button>
        </>
      )}
      {count.seated > 0 && (
        <ActButton panel="orders" label={t('act.orders')}>
          {() => <ExceptionForm chosen={chosen} />}
        </ActButton>
      )}
      {count.seated > 0 && hasRooms && (
        <ActButton panel="move" label={t('act.move')}>
          {(close) => <MoveForm chosen={chosen} onDone={close} />}
        </ActButton>
      )}
      {count.present > 0 && (
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
      )}
      <Button small look="text" onClick={clearSelection}>
        {t('board.clear')}
      </Button>
    </>
  )
}

/** An action that needs one more word from the host, asked in place. Keys open it, too. */
function ActButton({
  panel,
  label,
  children,
}: {
  panel: ActPanel
  label: string
  children: (close: () => void) => React.ReactNode
}) {
  const isOpen = useSelection((state) => state.panel === panel)
  const change = (next: boolean) => useSelection.setState({ panel: next ? panel : null })
  return (
    <Panel title={label} open={isOpen} onOpenChange={change} trigger={<Button small>{label}</Button>}>
      {children(() => change(false))}
    </Panel>
  )
}

function Roles({ label, onChoose }: { label: (role: Role) => string; onChoose: (role: Role) => void }) {
  const roles: Role[] = ['attendee', 'presenter', 'deputy']
  return (
    <div className="flex flex-col items-stretch gap-1.5">
      {roles.map((role) => (
        <Button key={role} onClick={() => onChoose(role)}>
          {label(role)}
        </Button>
      ))}
    </div>
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

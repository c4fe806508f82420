import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import { AdjournButton } from '../admission/AdjournButton'
import { LobbyItem } from '../admission/LobbyItem'
import { LeaveButton } from '../admission/LeaveButton'
import { guestLink } from '../api/client'
import type { MeRow } from '../contract.generated'
import type { Sitting } from '../live/store'
import { FloorItem } from '../floor/FloorItem'
import { wish } from '../live/connection'
import { FactsItem } from '../planning/FactsItem'
import { PictureItem } from '../picture/PictureItem'
import { Button } from '../ui/Button'
import { Choice } from '../ui/Choice'
import { Words } from '../ui/Field'
import { SettingsItem } from '../settings/SettingsItem'
import { DoorChoice } from './OrderChoice'
import { OrderItem, OrdersItem } from './OrderItems'
import { RibbonItem, RibbonTitle } from './RibbonParts'

interface Props {
  me: MeRow
  sitting: Sitting
  link: string
  doorOpen: boolean
  onDoorOpen: (open: boolean) => void
  settingsOpen: boolean
  onSettingsOpen: (open: boolean) => void
}

/** The state of the session as sentences; each is its own control, and nothing of it stands anywhere else. */
export function Ribbon({ me, sitting, link, doorOpen, onDoorOpen, settingsOpen, onSettingsOpen }: Props) {
  const { t } = useTranslation()
  const url = guestLink(link)
  return (
    <header aria-label={t('ribbon.label')} className="flex min-h-14 items-stretch overflow-x-auto bg-felt text-on-felt">
      <RibbonTitle sitting={sitting} bench />
      {sitting.session.phase === 'prepare' && (
        <button
          className="shrink-0 border-l border-brass bg-brass-soft px-4 text-left text-ink"
          onClick={() => void wish({ do: 'begin' })}
        >
          <span className="block text-[0.719rem] text-brass-ink">{t('prepare.now')}</span>
          <span className="block text-[0.844rem] font-semibold whitespace-nowrap">{t('prepare.begin')}</span>
        </button>
      )}
      <LobbyItem sitting={sitting} />
      <RibbonItem
        label={t('ribbon.door')}
        value={sitting.door.lock ? t('door.locked') : t(`door.${sitting.door.mode ?? 'attended'}`)}
        title={t('door.title')}
        unusual={sitting.door.lock !== null}
        open={doorOpen}
        onOpenChange={onDoorOpen}
      >
        <DoorPanel sitting={sitting} />
      </RibbonItem>
      <OrderItem order="speak" audience={sitting.orders.speak} usual={['everyone', 'presenters']} />
      <OrderItem order="writeToAll" audience={sitting.orders.writeToAll} usual={['everyone']} />
      <OrdersItem sitting={sitting} />
      {sitting.floor.sheet && <FloorItem floor={sitting.floor.sheet} />}
      <PictureItem me={me} />
      <span className="flex-1" />
      <FactsItem sitting={sitting} url={url} link={link} />
      <SettingsItem open={settingsOpen} onOpenChange={onSettingsOpen} bench />
      <LeaveButton me={me} />
      {me.may.includes('adjourn') && <AdjournButton sitting={sitting} />}
    </header>
  )
}

type Late = 'wait' | 'away'

function DoorPanel({ sitting }: { sitting: Sitting }) {
  const { t } = useTranslation()
  const [words, setWords] = useState(sitting.door.lock?.words ?? t('door.lockWordsDefault'))
  const [late, setLate] = useState<Late>(sitting.door.lock?.lateWait ? 'wait' : 'away')
  return (
    <>
      {sitting.door.lock ? (
        <div className="mb-3 border-l-4 border-brass pl-3">
          <p className="mb-2 text-[0.875rem] font-semibold">{t('door.lockedNow')}</p>
          <Button look="primary" onClick={() => void wish({ do: 'unlockDoor' })}>
            {t('door.unlock')}
          </Button>
        </div>
      ) : (
        <DoorChoice
          value={sitting.door.mode ?? undefined}
          byName={sitting.door.byName}
          onChange={(mode, byName) => void wish({ do: 'setDoor', mode, byName })}
        />
      )}
      <div className="mt-2 flex flex-col gap-2 border-t border-line pt-3">
        <Words label={t('door.lockWords')} rows={2} value={words} onChange={(e) => setWords(e.target.value)} />
        <Choice<Late>
          label={t('door.lockTitle')}
          value={late}
          options={[
            { value: 'away', label: t('door.lateAway') },
            { value: 'wait', label: t('door.lateWait') },
          ]}
          onChange={setLate}
        />
        <Button
          look={sitting.door.lock ? 'plain' : 'primary'}
          className="self-start"
          onClick={() => void wish({ do: 'lockDoor', words, lateWait: late === 'wait' })}
        >
          {t('door.lock')}
        </Button>
      </div>
    </>
  )
}

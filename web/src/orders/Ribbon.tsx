import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import { AdjournButton } from '../admission/AdjournButton'
import { LobbyItem } from '../admission/LobbyItem'
import { LeaveButton } from '../admission/LeaveButton'
import { guestLink } from '../api/client'
import type { Audience, MeRow, SittingRow } from '../contract.generated'
import { FloorItem } from '../floor/FloorItem'
import { KeyList } from '../live/KeyList'
import { wish } from '../live/connection'
import { FactsItem } from '../planning/FactsItem'
import { PictureChoice } from '../picture/PictureChoice'
import { useView } from '../picture/view'
import { Button } from '../ui/Button'
import { Choice } from '../ui/Choice'
import { Words } from '../ui/Field'
import { DoorChoice, OrderChoice, orderLabel, type ShownOrder } from './OrderChoice'
import { RibbonItem, RibbonTitle } from './RibbonParts'

interface Props {
  me: MeRow
  sitting: SittingRow
  link: string
  doorOpen: boolean
  onDoorOpen: (open: boolean) => void
  keysOpen: boolean
  onKeysOpen: (open: boolean) => void
}

/** The state of the session as sentences; each is its own control, and nothing of it stands anywhere else. */
export function Ribbon({ me, sitting, link, doorOpen, onDoorOpen, keysOpen, onKeysOpen }: Props) {
  const { t } = useTranslation()
  const arrangement = useView((state) => state.arrangement)
  const url = guestLink(link)
  return (
    <header aria-label={t('ribbon.label')} className="flex min-h-14 items-stretch overflow-x-auto bg-felt text-on-felt">
      <RibbonTitle sitting={sitting} />
      {sitting.phase === 'prepare' && (
        <button
          className="shrink-0 border-l border-brass bg-brass-soft px-4 text-left text-ink"
          onClick={() => void wish({ do: 'begin' })}
        >
          <span className="block text-[11.5px] text-brass-ink">{t('prepare.now')}</span>
          <span className="block text-[13.5px] font-semibold whitespace-nowrap">{t('prepare.begin')}</span>
        </button>
      )}
      <LobbyItem sitting={sitting} />
      <RibbonItem
        label={t('ribbon.door')}
        value={sitting.lock ? t('door.locked') : t(`door.${sitting.door ?? 'attended'}`)}
        title={t('door.title')}
        unusual={sitting.lock !== null}
        open={doorOpen}
        onOpenChange={onDoorOpen}
      >
        <DoorPanel sitting={sitting} />
      </RibbonItem>
      <OrderItem order="speak" audience={sitting.orders.speak} usual={['everyone', 'presenters']} />
      <OrderItem order="showCamera" audience={sitting.orders.showCamera} usual={['everyone']} />
      <OrderItem order="seePeople" audience={sitting.orders.seePeople} usual={['everyone']} />
      {sitting.floor && <FloorItem floor={sitting.floor} />}
      <RibbonItem label={t('ribbon.view')} value={t(`picture.${arrangement}`)} title={t('picture.title')}>
        <PictureChoice />
      </RibbonItem>
      <span className="flex-1" />
      <FactsItem sitting={sitting} url={url} link={link} />
      <KeyList open={keysOpen} onOpenChange={onKeysOpen} bench />
      <LeaveButton me={me} />
      {me.may.includes('adjourn') && <AdjournButton sitting={sitting} />}
    </header>
  )
}

function OrderItem({ order, audience, usual }: { order: ShownOrder; audience: Audience; usual: readonly Audience[] }) {
  const { t } = useTranslation()
  const label = t(orderLabel[order])
  return (
    <RibbonItem label={label} value={t(`orders.${order}.${audience}`)} title={label} unusual={!usual.includes(audience)}>
      <OrderChoice order={order} value={audience} onChange={(to) => void wish({ do: 'setOrder', order, to })} />
      <p className="mt-2 text-[13px] text-ink2">{t('orders.atOnce')}</p>
    </RibbonItem>
  )
}

type Late = 'wait' | 'away'

function DoorPanel({ sitting }: { sitting: SittingRow }) {
  const { t } = useTranslation()
  const [words, setWords] = useState(sitting.lock?.words ?? t('door.lockWordsDefault'))
  const [late, setLate] = useState<Late>(sitting.lock?.lateWait ? 'wait' : 'away')
  return (
    <>
      {sitting.lock ? (
        <div className="mb-3 border-l-4 border-brass pl-3">
          <p className="mb-2 text-[14px] font-semibold">{t('door.lockedNow')}</p>
          <Button look="primary" onClick={() => void wish({ do: 'unlockDoor' })}>
            {t('door.unlock')}
          </Button>
        </div>
      ) : (
        <DoorChoice value={sitting.door ?? undefined} onChange={(mode) => void wish({ do: 'setDoor', mode })} />
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
          look={sitting.lock ? 'plain' : 'primary'}
          className="self-start"
          onClick={() => void wish({ do: 'lockDoor', words, lateWait: late === 'wait' })}
        >
          {t('door.lock')}
        </Button>
      </div>
    </>
  )
}

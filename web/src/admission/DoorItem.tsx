import { useState } from 'react'
import { useTranslation } from 'react-i18next'

import type { Sitting } from '../live/store'
import { useOutlook } from '../docket/outlook'
import { timeOfDay } from '../i18n'
import { wish } from '../live/connection'
import { DoorChoice } from '../orders/OrderChoice'
import { usePanel } from '../sittings/panels'
import { RibbonItem } from '../sittings/RibbonItem'
import { Button } from '../ui/Button'
import { Choice } from '../ui/Choice'
import { Tick, Words } from '../ui/Field'
import { setArrivalSound, useArrivalSound } from './arrivals'

/** How people come in, how many wait, and how late the host runs; opens onto the door, its lock, and a notice to those who wait. */
export function DoorItem({ sitting }: { sitting: Sitting }) {
  const { t } = useTranslation()
  const late = useOutlook((state) => state.outlook?.lateMinutes ?? 0)
  const { door, counts, visits } = sitting
  const isLate = visits.hasSlots && late > 0
  const value = [
    ...(counts.waiting > 0 ? [t('lobby.waiting', { count: counts.waiting })] : []),
    ...(isLate ? [t('lobby.late', { count: late })] : []),
    door.lock ? t('door.locked') : t(`door.${door.mode ?? 'attended'}`),
  ]
  return (
    <RibbonItem
      label={t('ribbon.door')}
      value={value.join(' · ')}
      title={t('door.title')}
      unusual={door.lock !== null || counts.waiting > 0 || (isLate && late >= 5)}
      medium
      {...usePanel('door')}
    >
      {(close) => (
        <div className="grid gap-x-6 gap-y-4 sm:grid-cols-2">
          <div>
            <DoorForm sitting={sitting} />
          </div>
          <div className="border-line max-sm:border-t max-sm:pt-3 sm:border-l sm:pl-6">
            <h3 className="mb-2 font-serif text-[0.938rem] font-semibold">{t('lobby.title')}</h3>
            <NoticeForm sitting={sitting} late={isLate ? late : 0} onSent={close} />
          </div>
        </div>
      )}
    </RibbonItem>
  )
}

type Late = 'wait' | 'away'

function NoticeForm({ sitting, late, onSent }: { sitting: Sitting; late: number; onSent: () => void }) {
  const { t } = useTranslation()
  const sound = useArrivalSound((state) => state.on)
  const [words, setWords] = useState(late > 0 ? t('lobby.lateNotice', { count: late }) : '')
  return (
    <div className="flex flex-col gap-3">
      {sitting.door.notice && (
        <p className="border-l-2 border-brass pl-3 text-[0.844rem]">
          <span className="text-ink2">{t('lobby.lastNotice', { time: timeOfDay(sitting.door.notice.at) })}</span>{' '}
          {sitting.door.notice.words}
        </p>
      )}
      <Words label={t('lobby.notice')} value={words} onChange={(e) => setWords(e.target.value)} />
      <div className="flex flex-wrap gap-2">
        <Button look="primary" onClick={() => void wish({ do: 'sendNotice', words }).then((sent) => sent && onSent())}>
          {t('lobby.send', { count: sitting.counts.waiting })}
        </Button>
        {late > 0 && (
          <Button look="text" onClick={() => setWords(t('lobby.lateNotice', { count: late }))}>
            {t('lobby.fillLate', { count: late })}
          </Button>
        )}
      </div>
      <p className="text-[0.812rem] text-ink2">{t('lobby.noticeHint')}</p>
      <Tick label={t('lobby.sound')} checked={sound} onChange={(e) => setArrivalSound(e.target.checked)} />
    </div>
  )
}

function DoorForm({ sitting }: { sitting: Sitting }) {
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

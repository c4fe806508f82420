import { useState } from 'react'
import { useTranslation } from 'react-i18next'

import type { Sitting } from '../live/store'
import { useOutlook } from '../docket/outlook'
import { timeOfDay } from '../i18n'
import { wish } from '../live/connection'
import { RibbonItem } from '../orders/RibbonParts'
import { Button } from '../ui/Button'
import { Tick, Words } from '../ui/Field'
import { setArrivalSound, useArrivalSound } from './arrivals'

/** How many wait and how late the host runs; opens onto a notice to all of them. */
export function LobbyItem({ sitting }: { sitting: Sitting }) {
  const { t } = useTranslation()
  const late = useOutlook((state) => state.outlook?.lateMinutes ?? 0)
  const waiting = t('lobby.waiting', { count: sitting.counts.waiting })
  const value = sitting.visits.hasSlots && late > 0 ? `${waiting} · ${t('lobby.late', { count: late })}` : waiting
  return (
    <RibbonItem label={t('board.lobby')} value={value} title={t('lobby.title')} unusual={sitting.visits.hasSlots && late >= 5}>
      {(close) => <NoticeForm sitting={sitting} late={late} onSent={close} />}
    </RibbonItem>
  )
}

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

import { useState } from 'react'
import { useTranslation } from 'react-i18next'

import type { Sitting } from '../live/store'
import { timeOfDay } from '../i18n'
import { wish } from '../live/connection'
import { useLive } from '../live/store'
import { Button } from '../ui/Button'
import { Field, Select, Tick, Words } from '../ui/Field'
import { useTimeLeft } from './left'

/** Recess, the planned end, and who leads when the host's connection is lost. */
export function TimePanel({ sitting }: { sitting: Sitting }) {
  const { t } = useTranslation()
  return (
    <div className="flex flex-col gap-3">
      {sitting.session.hostName && (
        <p className="text-[0.875rem]">
          {t('time.leads', { host: sitting.session.hostName, time: timeOfDay(sitting.session.openedAt) })}
        </p>
      )}
      {sitting.session.phase === 'recess' ? (
        <Button look="primary" className="self-start" onClick={() => void wish({ do: 'resume' })}>
          {t('recess.end')}
        </Button>
      ) : (
        sitting.session.phase === 'inSession' && <RecessForm />
      )}
      <PlannedEnd />
      <Succession />
    </div>
  )
}

function RecessForm() {
  const { t } = useTranslation()
  const [words, setWords] = useState('')
  const [minutes, setMinutes] = useState('10')
  const [itself, setItself] = useState(false)
  return (
    <form
      className="flex flex-col gap-2 border-t border-line pt-3"
      onSubmit={(event) => {
        event.preventDefault()
        void wish({ do: 'callRecess', words, minutes: minutes === '' ? null : Number(minutes), endsItself: itself })
      }}
    >
      <h3 className="font-serif text-[0.938rem] font-semibold">{t('recess.title')}</h3>
      <p className="text-[0.812rem] text-ink2">{t('recess.hint')}</p>
      <Words label={t('recess.words')} rows={2} value={words} onChange={(e) => setWords(e.target.value)} />
      <Field
        label={t('recess.minutes')}
        type="number"
        min={1}
        max={1440}
        placeholder={t('plan.openEnded')}
        value={minutes}
        onChange={(e) => setMinutes(e.target.value)}
      />
      <Tick label={t('recess.itself')} checked={itself} disabled={minutes === ''} onChange={(e) => setItself(e.target.checked)} />
      <Button look="primary" type="submit" className="self-start">
        {t('recess.call')}
      </Button>
    </form>
  )
}

function PlannedEnd() {
  const { t } = useTranslation()
  const end = useLive((state) => state.sitting?.time.endsAt ?? null)
  const left = useTimeLeft()
  return (
    <div className="flex flex-col gap-2 border-t border-line pt-3">
      <h3 className="font-serif text-[0.938rem] font-semibold">{t('time.end')}</h3>
      <p className="text-[0.875rem]">
        {end === null ? t('time.endOpen') : t('time.endsAt', { time: timeOfDay(end), left: left?.words })}
      </p>
      <div className="flex flex-wrap gap-1.5">
        {[5, 10, 15, 30].map((minutes) => (
          <Button key={minutes} small onClick={() => void wish({ do: 'extend', minutes })}>
            {end === null ? t('time.endIn', { count: minutes }) : t('time.extend', { count: minutes })}
          </Button>
        ))}
        {end !== null && (
          <Button small look="text" onClick={() => void wish({ do: 'setEnd', to: null })}>
            {t('time.open')}
          </Button>
        )}
      </div>
    </div>
  )
}

function Succession() {
  const { t } = useTranslation()
  const seconds = useLive((state) => state.sitting?.time.succession ?? null)
  const choices = [...new Set([30, 60, 120, 300, 600, ...(seconds === null ? [] : [seconds])])].sort((a, b) => a - b)
  return (
    <div className="flex flex-col gap-1 border-t border-line pt-3">
      <Select
        label={t('succession.title')}
        value={seconds ?? ''}
        onChange={(e) => void wish({ do: 'setSuccession', seconds: e.target.value === '' ? null : Number(e.target.value) })}
      >
        <option value="">{t('succession.never')}</option>
        {choices.map((one) => (
          <option key={one} value={one}>
            {one < 60 ? t('succession.seconds', { count: one }) : t('succession.minutes', { count: one / 60 })}
          </option>
        ))}
      </Select>
      <p className="text-[0.812rem] text-ink2">{t('succession.hint')}</p>
    </div>
  )
}

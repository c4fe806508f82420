import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { Plan } from '../contract.generated'
import { reader } from '../i18n'
import { Button } from '../ui/Button'
import { Field, Select } from '../ui/Field'
import { fromRule, toRule, weekdays, type Repeat } from './rule'

/** How often the session comes, and on which days it does not. */
export function RepeatFields({ plan, onChange }: { plan: Plan; onChange: (change: Partial<Plan>) => void }) {
  const { t } = useTranslation()
  const [without, setWithout] = useState('')
  const repeat = fromRule(plan.rule)
  const set = (change: Partial<Repeat>) => repeat && onChange({ rule: toRule({ ...repeat, ...change }) })
  const dayName = (at: number) =>
    new Intl.DateTimeFormat(reader(), { weekday: 'short', timeZone: 'UTC' }).format(Date.UTC(2024, 0, 1 + at))
  const leaveOut = () => {
    if (without && !plan.except.includes(without)) onChange({ except: [...plan.except, without].sort() })
    setWithout('')
  }
  return (
    <div className="flex flex-col gap-3">
      {repeat ? (
        <>
          <div className="grid gap-3 sm:grid-cols-3">
            <Select
              label={t('repeat.every')}
              value={repeat.every}
              onChange={(e) => set({ every: e.target.value as Repeat['every'] })}
            >
              {(['DAILY', 'WEEKLY', 'MONTHLY'] as const).map((every) => (
                <option key={every} value={every}>
                  {t(`repeat.${every}`)}
                </option>
              ))}
            </Select>
            <Field
              label={t(`repeat.interval.${repeat.every}`)}
              type="number"
              min={1}
              max={99}
              value={repeat.interval}
              onChange={(e) => set({ interval: Math.max(1, Number(e.target.value)) })}
            />
            <Field label={t('repeat.until')} type="date" value={repeat.until} onChange={(e) => set({ until: e.target.value })} />
          </div>
          {repeat.every === 'WEEKLY' && (
            <div role="group" aria-label={t('repeat.days')} className="flex flex-wrap gap-1.5">
              {weekdays.map((day, at) => {
                const on = repeat.days.includes(day)
                return (
                  <Button
                    key={day}
                    small
                    aria-pressed={on}
                    look={on ? 'primary' : 'plain'}
                    onClick={() => set({ days: on ? repeat.days.filter((other) => other !== day) : [...repeat.days, day] })}
                  >
                    {dayName(at)}
                  </Button>
                )
              })}
            </div>
          )}
        </>
      ) : (
        <p className="text-[0.875rem]">
          {t('repeat.ownRule')} <code className="break-all">{plan.rule}</code>
        </p>
      )}
      <div className="flex items-end gap-2">
        <Field label={t('repeat.except')} type="date" value={without} onChange={(e) => setWithout(e.target.value)} />
        <Button onClick={leaveOut}>{t('repeat.leaveOut')}</Button>
      </div>
      {plan.except.length > 0 && (
        <ul className="flex flex-wrap gap-1.5 text-[0.844rem]">
          {plan.except.map((date) => (
            <li key={date} className="flex items-center gap-1 border border-line bg-linen pl-2">
              {date}
              <Button
                small
                look="text"
                aria-label={t('repeat.putBack', { date })}
                onClick={() => onChange({ except: plan.except.filter((other) => other !== date) })}
              >
                {t('common.remove')}
              </Button>
            </li>
          ))}
        </ul>
      )}
    </div>
  )
}

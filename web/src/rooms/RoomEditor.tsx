import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { LateRule, RoomForm, Spread } from '../contract.generated'
import { useLive } from '../live/store'
import { Button } from '../ui/Button'
import { Field, Select, Tick, Words } from '../ui/Field'
import { linesOf, namesIn, setsOf } from './words'

interface Props {
  form: RoomForm
  /** How many would be spread over the rooms. */
  people: number
  onPlan: (form: RoomForm) => Promise<boolean>
  onClose: (() => void) | null
  /** What the button says that keeps the wishes. */
  does?: string
}

const lateRules: readonly LateRule[] = ['smallestRoom', 'ownGroup', 'wait']
const most = 100

/** How rooms are wished. Names are taken as the command line takes them. */
export function RoomEditor({ form: first, people, onPlan, onClose, does }: Props) {
  const { t } = useTranslation()
  const groups = useLive((state) => state.sitting?.groups.names)
  const [form, setForm] = useState(first)
  const [count, setCount] = useState(String(first.rooms.length))
  const [names, setNames] = useState(first.rooms.some((room) => room.name) ? first.rooms.map((room) => room.name).join('\n') : '')
  const [leads, setLeads] = useState(
    first.rooms
      .map((room) => room.leads.join(', '))
      .join('\n')
      .trimEnd(),
  )
  const [together, setTogether] = useState(first.together.map((set) => set.names.join(', ')).join('\n'))
  const [apart, setApart] = useState(first.apart.map((set) => set.names.join(', ')).join('\n'))
  const set = (change: Partial<RoomForm>) => setForm({ ...form, ...change })
  const named = linesOf(names).filter(Boolean)
  const rooms = named.length > 0 ? named.length : Math.min(most + 1, Math.max(0, Math.trunc(Number(count)) || 0))
  const whole = (): RoomForm => {
    const heads = linesOf(leads)
    return {
      ...form,
      rooms: Array.from({ length: rooms }, (_, at) => ({
        name: named[at] ?? '',
        task: first.rooms[at]?.task ?? null,
        leads: namesIn(heads[at] ?? ''),
        people: first.rooms[at]?.people ?? [],
      })),
      together: setsOf(together),
      apart: setsOf(apart),
    }
  }
  return (
    <div role="group" aria-label={t('rooms.plan')} className="flex flex-col gap-2.5 border border-line bg-linen p-2.5">
      <div className="grid grid-cols-2 items-end gap-2">
        <Field
          label={t('rooms.howMany')}
          type="number"
          min={1}
          max={most}
          value={named.length > 0 ? named.length : count}
          disabled={named.length > 0}
          onChange={(e) => setCount(e.target.value)}
        />
        <Field
          label={t('rooms.minutes')}
          type="number"
          min={1}
          max={600}
          placeholder="—"
          title={t('rooms.minutesHint')}
          value={form.minutes ?? ''}
          onChange={(e) => set({ minutes: e.target.value === '' ? null : Number(e.target.value) })}
        />
      </div>
      {rooms > 0 && people > 0 && (
        <p className="-mt-1 text-[0.812rem] text-ink2">{t('rooms.size', { count: Math.max(1, Math.round(people / rooms)) })}</p>
      )}
      <Words
        label={t('rooms.names')}
        rows={3}
        maxLength={7000}
        value={names}
        onChange={(e) => setNames(e.target.value)}
        placeholder={t('rooms.namesHint')}
      />
      {groups && groups.length > 1 && (
        <Button
          small
          className="self-start"
          onClick={() => {
            setNames(groups.join('\n'))
            set({ spread: 'byGroup' })
          }}
        >
          {t('rooms.fromGroups')}
        </Button>
      )}
      <Select label={t('rooms.spread')} value={form.spread} onChange={(e) => set({ spread: e.target.value as Spread })}>
        {(['mixed', 'byGroup'] as const).map((one) => (
          <option key={one} value={one}>
            {t(`rooms.${one}`)}
          </option>
        ))}
      </Select>
      <Words
        label={t('rooms.task')}
        rows={2}
        maxLength={2000}
        value={form.task ?? ''}
        onChange={(e) => set({ task: e.target.value === '' ? null : e.target.value })}
      />
      <details>
        <summary className="cursor-pointer text-[0.844rem] font-semibold text-felt-ink underline underline-offset-4">
          {t('rooms.more')}
        </summary>
        <div className="mt-2 flex flex-col gap-2.5">
          <p className="text-[0.812rem] text-ink2">{t('rooms.wishHint')}</p>
          <Words label={t('rooms.leads')} rows={2} maxLength={7000} value={leads} onChange={(e) => setLeads(e.target.value)} />
          <Words
            label={t('rooms.together')}
            rows={2}
            maxLength={20_000}
            value={together}
            onChange={(e) => setTogether(e.target.value)}
          />
          <Words label={t('rooms.apart')} rows={2} maxLength={20_000} value={apart} onChange={(e) => setApart(e.target.value)} />
          <Select label={t('rooms.late')} value={form.late} onChange={(e) => set({ late: e.target.value as LateRule })}>
            {lateRules.map((rule) => (
              <option key={rule} value={rule}>
                {t(`rooms.lateRule.${rule}`)}
              </option>
            ))}
          </Select>
          {(['notAgain', 'mayGoBack', 'mayListen', 'keepsChat'] as const).map((tick) => (
            <Tick
              key={tick}
              label={t(`rooms.${tick}`)}
              checked={form[tick]}
              onChange={(e) => set({ [tick]: e.target.checked })}
            />
          ))}
        </div>
      </details>
      <div className="flex flex-wrap gap-2">
        <Button look="primary" disabled={rooms === 0} onClick={() => void onPlan(whole())}>
          {does ?? t('rooms.planIt')}
        </Button>
        {onClose && (
          <Button look="text" onClick={onClose}>
            {t('common.cancel')}
          </Button>
        )}
      </div>
    </div>
  )
}

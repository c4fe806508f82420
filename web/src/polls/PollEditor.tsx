import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { PollForm, PollKind } from '../contract.generated'
import { useLive } from '../live/store'
import { useSelection } from '../people/selection'
import { Button } from '../ui/Button'
import { Field, Select, Tick, Words } from '../ui/Field'
import { newForm, pollKinds, takesOptions } from './words'

interface Props {
  form: PollForm
  /** Null where it can only be kept, as while another one is open. */
  onOpen: ((form: PollForm) => Promise<boolean>) | null
  onKeep: (form: PollForm) => Promise<boolean>
  onClose: () => void
  keep: string
}

const numberIn = (value: string) => (value === '' ? null : Number(value))

/** A question, with how it is answered and by whom. */
export function PollEditor({ form: first, onOpen, onKeep, onClose, keep }: Props) {
  const { t } = useTranslation()
  const [form, setForm] = useState(first)
  const [options, setOptions] = useState(first.options.join('\n'))
  const set = (change: Partial<PollForm>) => setForm({ ...form, ...change })
  const whole: PollForm = {
    ...form,
    options: takesOptions(form.kind)
      ? options
          .split('\n')
          .map((option) => option.trim())
          .filter(Boolean)
      : [],
  }
  const done = async (does: (form: PollForm) => Promise<boolean>) => {
    if (await does(whole)) onClose()
  }
  const kind = (to: PollKind) => set({ kind: to, most: null, low: newForm(to).low, high: newForm(to).high })
  return (
    <form className="flex flex-col gap-2.5 border border-line bg-linen p-2.5" onSubmit={(e) => e.preventDefault()}>
      <Words
        label={t('polls.text')}
        rows={2}
        maxLength={400}
        value={form.text}
        onChange={(e) => set({ text: e.target.value })}
        aria-description={t('polls.textHint')}
      />
      <Select label={t('polls.kindLabel')} value={form.kind} onChange={(e) => kind(e.target.value as PollKind)}>
        {pollKinds.map((one) => (
          <option key={one} value={one}>
            {t(`polls.kind.${one}`)}
          </option>
        ))}
      </Select>
      {takesOptions(form.kind) && (
        <Words
          label={t('polls.options')}
          rows={4}
          maxLength={1500}
          value={options}
          onChange={(e) => setOptions(e.target.value)}
        />
      )}
      {form.kind === 'several' && (
        <Field
          label={t('polls.most')}
          type="number"
          min={1}
          max={12}
          value={form.most ?? ''}
          onChange={(e) => set({ most: numberIn(e.target.value) })}
        />
      )}
      {(form.kind === 'scale' || form.kind === 'number') && (
        <div className="grid grid-cols-2 gap-2">
          <Field
            label={t('polls.low')}
            type="number"
            value={form.low ?? ''}
            onChange={(e) => set({ low: numberIn(e.target.value) })}
          />
          <Field
            label={t('polls.high')}
            type="number"
            value={form.high ?? ''}
            onChange={(e) => set({ high: numberIn(e.target.value) })}
          />
        </div>
      )}
      <Tick label={t('polls.secretTick')} checked={form.secret} onChange={(e) => set({ secret: e.target.checked })} />
      <WhoMayVote who={form.who} onWho={(who) => set({ who })} />
      <Tick label={t('polls.lateTick')} checked={form.late} onChange={(e) => set({ late: e.target.checked })} />
      <div className="grid grid-cols-2 items-end gap-2">
        <Field
          label={t('polls.minutes')}
          type="number"
          min={0.5}
          max={1440}
          step={0.5}
          value={form.seconds === null ? '' : form.seconds / 60}
          onChange={(e) => set({ seconds: e.target.value === '' ? null : Math.round(Number(e.target.value) * 60) })}
        />
        <Field
          label={t('polls.quorum')}
          type="number"
          min={1}
          max={10_000}
          value={form.quorum ?? ''}
          onChange={(e) => set({ quorum: numberIn(e.target.value) })}
        />
      </div>
      <div className="flex flex-wrap gap-2">
        {onOpen && (
          <Button look="primary" onClick={() => void done(onOpen)}>
            {t('polls.openNow')}
          </Button>
        )}
        <Button onClick={() => void done(onKeep)}>{keep}</Button>
        <Button look="text" onClick={onClose}>
          {t('common.cancel')}
        </Button>
      </div>
    </form>
  )
}

function WhoMayVote({ who, onWho }: { who: PollForm['who']; onWho: (who: PollForm['who']) => void }) {
  const { t } = useTranslation()
  const groups = useLive((state) => state.sitting?.groups.names)
  const selected = useSelection((state) => state.selected)
  const named = who.named.length > 0 ? who.named : [...selected]
  return (
    <fieldset>
      <legend className="text-[0.844rem] font-semibold">{t('polls.who')}</legend>
      {(['attendees', 'presenters', 'bench'] as const).map((role) => (
        <Tick
          key={role}
          label={t(`polls.${role}`)}
          checked={who[role]}
          onChange={(e) => onWho({ ...who, [role]: e.target.checked })}
        />
      ))}
      {groups && groups.length > 0 && (
        <Select
          label={t('polls.onlyGroup')}
          value={who.groups[0] ?? ''}
          onChange={(e) => onWho({ ...who, groups: e.target.value ? [e.target.value] : [] })}
        >
          <option value="">{t('polls.anyGroup')}</option>
          {groups.map((group) => (
            <option key={group} value={group}>
              {group}
            </option>
          ))}
        </Select>
      )}
      {named.length > 0 && (
        <Tick
          label={t('polls.onlySelected', { count: named.length })}
          checked={who.named.length > 0}
          onChange={(e) => onWho({ ...who, named: e.target.checked ? named : [] })}
        />
      )}
    </fieldset>
  )
}

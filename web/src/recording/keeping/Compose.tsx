import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import { recordings } from '../../api/client'
import type { CutRow, Framing } from '../../contract.generated'
import { Button } from '../../ui/Button'
import { Failure } from '../../ui/Failure'
import { Field, Select, Tick } from '../../ui/Field'
import { timeIn } from '../library'
import { useAct } from './useAct'

export function Compose({ id, onDone }: { id: string; onDone: () => void }) {
  const { t } = useTranslation()
  const [framing, setFraming] = useState<Framing | ''>('')
  const [names, setNames] = useState(true)
  const [questions, setQuestions] = useState(true)
  const [cuts, setCuts] = useState<{ from: string; to: string }[]>([])
  const [bad, setBad] = useState(false)
  const compose = useAct(
    id,
    (parts: CutRow[]) => recordings.compose(id, { framing: framing === '' ? null : framing, names, questions, cuts: parts }),
    onDone,
  )
  const submit = () => {
    const read = cuts.map((cut) => ({ from: timeIn(cut.from), to: timeIn(cut.to) }))
    const parts = read.filter((cut): cut is CutRow => cut.from !== null && cut.to !== null && cut.from < cut.to)
    setBad(parts.length < read.length)
    if (parts.length === read.length) compose.mutate(parts)
  }
  const set = (at: number, change: Partial<{ from: string; to: string }>) =>
    setCuts(cuts.map((cut, index) => (index === at ? { ...cut, ...change } : cut)))
  return (
    <form
      className="mt-2 flex flex-col gap-2 border border-line bg-paper p-3"
      onSubmit={(event) => {
        event.preventDefault()
        submit()
      }}
    >
      <Select label={t('recording.film')} value={framing} onChange={(e) => setFraming(e.target.value as Framing | '')}>
        <option value="">{t('player.asRecorded')}</option>
        {(['lead', 'even', 'exhibit', 'sound'] as const).map((one) => (
          <option key={one} value={one}>
            {t(`recording.framingName.${one}`)}
          </option>
        ))}
      </Select>
      <Tick label={t('recording.names')} checked={names} onChange={(e) => setNames(e.target.checked)} />
      <Tick label={t('recording.questions')} checked={questions} onChange={(e) => setQuestions(e.target.checked)} />
      {cuts.map((cut, at) => (
        <fieldset key={at} className="flex items-end gap-2">
          <legend className="sr-only">{t('player.leaveOut')}</legend>
          <Field
            label={t('player.from')}
            placeholder="0:00"
            value={cut.from}
            onChange={(e) => set(at, { from: e.target.value })}
          />
          <Field label={t('player.to')} placeholder="1:30" value={cut.to} onChange={(e) => set(at, { to: e.target.value })} />
          <Button
            small
            aria-label={`${t('common.remove')} ${at + 1}`}
            onClick={() => setCuts(cuts.filter((_, index) => index !== at))}
          >
            {t('common.remove')}
          </Button>
        </fieldset>
      ))}
      {cuts.length > 0 && <p className="text-[0.812rem] text-ink2">{t('player.leaveOutHint')}</p>}
      {bad && (
        <p role="alert" className="text-[0.844rem] font-medium text-brick">
          {t('player.badCut')}
        </p>
      )}
      <Failure of={[compose.error]} />
      <div className="flex flex-wrap gap-2">
        <Button look="primary" type="submit" disabled={compose.isPending}>
          {t('player.composeDo')}
        </Button>
        <Button onClick={() => setCuts([...cuts, { from: '', to: '' }])}>
          {t(cuts.length === 0 ? 'player.leaveOut' : 'player.addCut')}
        </Button>
        <Button look="text" onClick={onDone}>
          {t('common.cancel')}
        </Button>
      </div>
    </form>
  )
}

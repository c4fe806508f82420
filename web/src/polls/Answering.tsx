import { clsx } from 'clsx'
import { useTranslation } from 'react-i18next'
import type { Choice as Answer, PollForm } from '../contract.generated'
import { Choice } from '../ui/Choice'
import { Field, Tick, Words } from '../ui/Field'
import { numberOf, optionsOf } from './words'

export const abstention: Answer = { options: [], number: null, text: null }

interface Props {
  form: PollForm
  draft: Answer
  onDraft: (draft: Answer) => void
}

/** The way in which a question is answered. */
export function Answering({ form, draft, onDraft }: Props) {
  const { t } = useTranslation()
  const options = optionsOf(t, form)
  const choose = (chosen: readonly number[]) => onDraft({ ...abstention, options: [...chosen] })
  switch (form.kind) {
    case 'words':
      return (
        <Words
          label={t('polls.answer')}
          rows={2}
          maxLength={300}
          value={draft.text ?? ''}
          onChange={(e) => onDraft({ ...abstention, text: e.target.value || null })}
        />
      )
    case 'number':
      return (
        <div className="w-40">
          <Field
            label={t('polls.answer')}
            type="number"
            step="any"
            min={form.low ?? undefined}
            max={form.high ?? undefined}
            value={draft.number ?? ''}
            onChange={(e) => onDraft({ ...abstention, number: e.target.value === '' ? null : Number(e.target.value) })}
          />
        </div>
      )
    case 'scale':
      return <Scale form={form} draft={draft} onDraft={onDraft} />
    case 'several':
      return (
        <fieldset>
          <legend className="text-[0.812rem] text-ink2">{t('polls.upTo', { count: form.most ?? options.length })}</legend>
          {options.map((option, at) => (
            <Tick
              key={at}
              label={option}
              checked={draft.options.includes(at)}
              onChange={(e) => choose(e.target.checked ? [...draft.options, at] : draft.options.filter((one) => one !== at))}
            />
          ))}
        </fieldset>
      )
    case 'preference':
      return <Ranking options={options} ranked={draft.options} onRank={choose} />
    default:
      return (
        <Choice
          label={t('polls.answer')}
          value={draft.options.length > 0 ? String(draft.options[0]) : undefined}
          options={options.map((option, at) => ({ value: String(at), label: option }))}
          onChange={(at) => choose([Number(at)])}
        />
      )
  }
}

function Scale({ form, draft, onDraft }: Props) {
  const { t } = useTranslation()
  const [low, high] = [form.low ?? 1, form.high ?? 5]
  return (
    <div role="group" aria-label={t('polls.answer')} className="flex flex-wrap gap-1.5">
      {Array.from({ length: high - low + 1 }, (_, at) => low + at).map((step) => (
        <button
          key={step}
          type="button"
          aria-pressed={draft.number === step}
          onClick={() => onDraft({ ...abstention, number: step })}
          className={clsx(
            'min-h-9 min-w-9 rounded-sm border px-2 text-[0.938rem] font-semibold',
            draft.number === step ? 'border-felt bg-felt text-on-felt' : 'border-edge bg-raised text-ink',
          )}
        >
          {numberOf(step)}
        </button>
      ))}
    </div>
  )
}

/** An order of preference: pressed one after the other; pressed again, an option is taken out. */
function Ranking({
  options,
  ranked,
  onRank,
}: {
  options: readonly string[]
  ranked: readonly number[]
  onRank: (ranked: readonly number[]) => void
}) {
  const { t } = useTranslation()
  return (
    <div>
      <p className="mb-1 text-[0.812rem] text-ink2">{t('polls.rankHint')}</p>
      <ul className="flex flex-col gap-1">
        {options.map((option, at) => {
          const place = ranked.indexOf(at) + 1
          return (
            <li key={at}>
              <button
                type="button"
                aria-label={
                  place > 0 ? t('polls.rankAt', { option, place }) : t('polls.rankNext', { option, place: ranked.length + 1 })
                }
                onClick={() => onRank(place > 0 ? ranked.filter((one) => one !== at) : [...ranked, at])}
                className={clsx(
                  'flex min-h-9 w-full items-center gap-2.5 rounded-sm border px-2 text-left text-[0.875rem]',
                  place > 0 ? 'border-felt bg-felt-soft font-semibold' : 'border-edge bg-raised',
                )}
              >
                <span className="w-5 text-right font-semibold tabular-nums">{place > 0 ? `${place}.` : ''}</span>
                {option}
              </button>
            </li>
          )
        })}
      </ul>
    </div>
  )
}

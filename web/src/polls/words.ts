import type { TFunction } from 'i18next'
import type { Choice, PollForm, PollKind, PollResult } from '../contract.generated'
import { listOf, reader } from '../i18n'

export const pollKinds: readonly PollKind[] = [
  'yesOrNo',
  'trueOrFalse',
  'one',
  'several',
  'scale',
  'number',
  'words',
  'preference',
]

export const takesOptions = (kind: PollKind) => kind === 'one' || kind === 'several' || kind === 'preference'

export const everybody: PollForm['who'] = { attendees: true, presenters: true, bench: true, groups: [], named: [] }

/** A question that nothing is filled in of yet. */
export const newForm = (kind: PollKind = 'yesOrNo'): PollForm => ({
  text: '',
  kind,
  options: [],
  most: null,
  low: kind === 'scale' ? 1 : null,
  high: kind === 'scale' ? 5 : null,
  secret: false,
  who: everybody,
  late: false,
  seconds: null,
  quorum: null,
})

/** "A to D", asked aloud. */
export const lettered = (count: number): PollForm => ({
  ...newForm('one'),
  options: Array.from({ length: count }, (_, at) => String.fromCharCode(65 + at)),
})

export const titleOf = (t: TFunction, form: PollForm) => form.text || t('polls.spoken')

/** What there is to choose from, in words. */
export const optionsOf = (t: TFunction, form: PollForm): readonly string[] =>
  form.kind === 'yesOrNo'
    ? [t('polls.yes'), t('polls.no')]
    : form.kind === 'trueOrFalse'
      ? [t('polls.true'), t('polls.false')]
      : form.options

export const numberOf = (number: number) => new Intl.NumberFormat(reader(), { maximumFractionDigits: 2 }).format(number)

/** What somebody has answered, in words. */
export function choiceInWords(t: TFunction, form: PollForm, choice: Choice): string {
  if (choice.text !== null) return choice.text
  if (choice.number !== null) return numberOf(choice.number)
  if (choice.options.length === 0) return t('polls.youAbstained')
  const options = optionsOf(t, form)
  const chosen = choice.options.map((at) => options[at] ?? '')
  return form.kind === 'preference' ? chosen.map((option, at) => `${at + 1}. ${option}`).join(', ') : listOf(chosen)
}

/** What came of it, in a sentence; empty where the lines say it all. */
export function outcome(t: TFunction, form: PollForm, result: PollResult): string {
  if (result.turnout === result.abstained) return t('polls.nobodyChose')
  const options = optionsOf(t, form)
  const first = result.first.map((at) => options[at] ?? '')
  if (first.length === 0) return ''
  if (first.length > 1) return t('polls.tie', { options: listOf(first) })
  return t(form.kind === 'preference' ? 'polls.wins' : 'polls.ahead', { option: first[0] })
}

import { useTranslation } from 'react-i18next'
import type { PollForm, PollResult } from '../contract.generated'
import { listOf } from '../i18n'
import { numberOf, optionsOf, outcome } from './words'

interface Props {
  form: PollForm
  result: PollResult
  /** Answers are still coming, and how many have come stands elsewhere. */
  live?: boolean
}

/** What came of a poll: plain bars that carry their numbers and words. */
export function ResultBars({ form, result, live = false }: Props) {
  const { t } = useTranslation()
  const options = optionsOf(t, form)
  const said = result.turnout - result.abstained
  const sentence = outcome(t, form, result)
  const preferred = form.kind === 'preference'
  return (
    <div className="flex flex-col gap-1.5">
      {sentence && <p className="font-serif text-[1rem] font-semibold">{sentence}</p>}
      {preferred && result.rounds.length > 0 ? (
        <Rounds options={options} result={result} />
      ) : (
        <ul className="flex flex-col gap-1.5">
          {result.bars.map((bar, at) => {
            const words = bar.option !== null ? options[bar.option]! : (bar.words ?? numberOf(bar.number ?? 0))
            const percent = said === 0 ? 0 : Math.round((100 * bar.count) / said)
            return (
              <li key={at} aria-label={t('polls.bar', { words, count: bar.count, percent })}>
                <div aria-hidden className="flex items-baseline gap-2 text-[0.875rem]">
                  <span className="min-w-0 flex-1 break-words">{words}</span>
                  <b className="font-semibold">{bar.count}</b>
                  <span className="w-11 text-right text-ink2">{t('polls.share', { percent })}</span>
                </div>
                <div aria-hidden className="mt-0.5 h-2 border border-edge bg-paper">
                  <div className="h-full bg-felt" style={{ width: `${percent}%` }} />
                </div>
              </li>
            )
          })}
        </ul>
      )}
      {result.spread && (
        <p className="text-[0.875rem]">
          {t('polls.spread', {
            mean: numberOf(result.spread.mean),
            median: numberOf(result.spread.median),
            least: numberOf(result.spread.least),
            most: numberOf(result.spread.most),
          })}
        </p>
      )}
      <p className="text-[0.812rem] text-ink2">
        {[
          live ? '' : t('polls.turnout', { voted: result.turnout, count: result.voters }),
          result.abstained > 0 ? t('polls.abstained', { count: result.abstained }) : '',
          result.quorate === null ? '' : t(result.quorate ? 'polls.quorate' : 'polls.inquorate', { quorum: form.quorum }),
        ]
          .filter(Boolean)
          .join(' · ')}
      </p>
    </div>
  )
}

/** An instant runoff: a column for each round, and who leaves after it. */
function Rounds({ options, result }: { options: readonly string[]; result: PollResult }) {
  const { t } = useTranslation()
  const exhausted = result.rounds.some((round) => round.exhausted > 0)
  const level = [...new Set(result.rounds.filter((round) => round.level.length > 0).map((round) => round.level.join()))]
  return (
    // Scrolled with the keyboard, so it takes the focus.
    // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex
    <div tabIndex={0} role="group" aria-label={t('polls.rounds')} className="overflow-x-auto">
      <table className="w-full border-collapse text-[0.812rem]">
        <thead>
          <tr className="text-left text-ink2">
            <th scope="col" className="pr-2 font-semibold">
              {t('polls.option')}
            </th>
            {result.rounds.map((_, at) => (
              <th
                key={at}
                scope="col"
                aria-label={t('polls.round', { number: at + 1 })}
                className="px-1.5 text-right font-semibold whitespace-nowrap"
              >
                {at + 1}.
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {options.map((option, number) => (
            <tr key={number} className="border-t border-line">
              <th scope="row" className="py-1 pr-2 text-left align-top font-medium">
                {option}
              </th>
              {result.rounds.map((round, at) => (
                <td key={at} className="px-1.5 py-1 text-right align-top whitespace-nowrap tabular-nums">
                  {round.counts[number] ?? '–'}
                  {round.out === number && <span className="block text-[0.75rem] text-brick">{t('polls.goesOut')}</span>}
                </td>
              ))}
            </tr>
          ))}
          {exhausted && (
            <tr className="border-t border-line text-ink2">
              <th scope="row" className="py-1 pr-2 text-left font-normal">
                {t('polls.exhausted')}
              </th>
              {result.rounds.map((round, at) => (
                <td key={at} className="px-1.5 text-right tabular-nums">
                  {round.exhausted}
                </td>
              ))}
            </tr>
          )}
        </tbody>
      </table>
      {level.map((one) => (
        <p key={one} className="mt-1 text-[0.812rem] text-ink2">
          {t('polls.levelLast', { options: listOf(one.split(',').map((at) => options[Number(at)]!)) })}
        </p>
      ))}
    </div>
  )
}

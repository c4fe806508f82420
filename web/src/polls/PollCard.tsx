import { clsx } from 'clsx'
import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { BallotRow, Choice, PollRow } from '../contract.generated'
import { clock } from '../i18n'
import { wish } from '../live/connection'
import { useNow } from '../live/time'
import { Button } from '../ui/Button'
import { abstention, Answering } from './Answering'
import { keptToken, tokenFor } from './token'
import { choiceInWords, titleOf } from './words'

const warnsAt = 15_000

interface Props {
  poll: PollRow
  ballot: BallotRow | null
  /** Whoever asks answers by the way: the question stays small until it is wanted. */
  aside: boolean
}

/** The question that is open, and one's own vote in it. */
export default function PollCard({ poll, ballot, aside }: Props) {
  const { t } = useTranslation()
  const { form } = poll
  const [draft, setDraft] = useState<Choice>(ballot?.choice ?? abstention)
  const [again, setAgain] = useState(false)
  const [small, setSmall] = useState(aside)
  const now = useNow()
  const left = poll.endsAt === null ? null : Math.max(0, poll.endsAt - now)
  const empty = draft.options.length === 0 && draft.number === null && draft.text === null
  const voted = ballot?.voted === true
  const elsewhere = voted && form.secret && !keptToken(poll.number)
  const cast = async (choice: Choice) => {
    const token = form.secret ? tokenFor(poll.number) : null
    if (!(await wish({ do: 'vote', poll: poll.number, choice, token }))) return
    setAgain(false)
    setSmall(aside)
    // What was chosen in secret is not left lying in the page.
    if (form.secret) setDraft(abstention)
  }
  return (
    <section
      aria-label={t('polls.card')}
      className={clsx(
        'flex shrink-0 flex-col gap-2 overflow-y-auto border border-l-[5px] border-line border-l-felt-ink bg-raised px-4 py-2.5',
        'max-md:order-first md:max-h-[45dvh]',
      )}
    >
      <Spoken poll={poll} left={left} />
      <div className="flex items-baseline gap-3">
        <h2 className="min-w-0 flex-1 font-serif text-[1.062rem] leading-snug font-semibold break-words">{titleOf(t, form)}</h2>
        {left !== null && (
          <span className={`text-[0.875rem] whitespace-nowrap ${left < warnsAt ? 'font-semibold text-brick' : 'text-ink2'}`}>
            {t('polls.left', { time: clock(left) })}
          </span>
        )}
      </div>
      {small && !voted ? (
        <div>
          <Button onClick={() => setSmall(false)}>{t('polls.voteToo')}</Button>
        </div>
      ) : !ballot?.may ? (
        <p className="text-[0.875rem]">{t('polls.cardNotYours')}</p>
      ) : voted && !again ? (
        <div className="flex flex-wrap items-center gap-3">
          <p className="flex-1 text-[0.938rem] font-semibold">
            {form.secret || !ballot.choice
              ? t('polls.youVotedSecretly')
              : t('polls.youVoted', { choice: choiceInWords(t, form, ballot.choice) })}
          </p>
          {elsewhere ? (
            <p className="text-[0.812rem] text-ink2">{t('polls.elsewhere')}</p>
          ) : (
            <Button onClick={() => setAgain(true)}>{t('polls.change')}</Button>
          )}
        </div>
      ) : (
        <>
          <Answering form={form} draft={draft} onDraft={setDraft} />
          <div className="flex flex-wrap items-center gap-2">
            <Button look="primary" disabled={empty} onClick={() => void cast(draft)}>
              {t(voted ? 'polls.changeDo' : 'polls.vote')}
            </Button>
            <Button onClick={() => void cast(abstention)}>{t('polls.abstain')}</Button>
            {again && (
              <Button look="text" onClick={() => setAgain(false)}>
                {t('common.cancel')}
              </Button>
            )}
          </div>
          <p className="text-[0.812rem] text-ink2">{t(form.secret ? 'polls.cardSecret' : 'polls.cardNamed')}</p>
        </>
      )}
    </section>
  )
}

/** Says once that a question is open, and once that its time is nearly over. */
function Spoken({ poll, left }: { poll: PollRow; left: number | null }) {
  const { t } = useTranslation()
  const warns = left !== null && left < warnsAt
  return (
    <p role="status" className="sr-only">
      {warns ? t('polls.soonOver', { count: warnsAt / 1000 }) : t('polls.asked', { text: titleOf(t, poll.form) })}
    </p>
  )
}

import { useTranslation } from 'react-i18next'
import type { PollForm, PollRow } from '../contract.generated'
import { listOf, clock, timeOfDay } from '../i18n'
import { currentSitting, wish } from '../live/connection'
import { useLive, type Sitting } from '../live/store'
import { useNow } from '../live/time'
import { useKeymap } from '../settings/keymap'
import { Button } from '../ui/Button'
import { Panel, PanelClose } from '../ui/Panel'
import { PreparedPolls } from './PreparedPolls'
import { ResultBars } from './ResultBars'
import { lettered, newForm, titleOf } from './words'

/** For the bench: asks, follows, shows what came of it, and prepares what is asked later. */
export function PollsSide({ sitting }: { sitting: Sitting }) {
  const { t } = useTranslation()
  const { open, over, prepared } = sitting.polls
  const ask = (form: PollForm) => wish({ do: 'openPoll', form })
  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col">
      <h2 className="px-3 pt-2 pb-1.5 font-serif text-[1.062rem] font-semibold">{t('polls.title')}</h2>
      {/* Scrolled with the keyboard, so it takes the focus. */}
      {/* eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex */}
      <div tabIndex={0} role="region" aria-label={t('polls.title')} className="min-h-0 flex-1 overflow-y-auto px-3 pb-3">
        <div className="flex flex-col gap-4">
          {open ? <OpenPoll poll={open} /> : <AskAloud onAsk={(form) => void ask(form)} />}
          <PreparedPolls
            prepared={prepared}
            onOpen={open ? null : ask}
            onChange={(polls) => wish({ do: 'preparePolls', polls })}
          />
          <section aria-label={t('polls.over')}>
            <h3 className="mb-1 text-[0.844rem] font-semibold">{t('polls.over')}</h3>
            {over.length === 0 && <p className="text-[0.844rem] text-ink2">{t('polls.noneOver')}</p>}
            <ul className="flex flex-col gap-1.5">
              {[...over].reverse().map((poll) => (
                <ClosedPoll key={poll.number} poll={poll} onAgain={open ? null : () => void ask(poll.form)} />
              ))}
            </ul>
          </section>
          {over.length > 0 && (
            <p className="flex gap-3 text-[0.844rem]">
              {(['csv', 'json'] as const).map((format) => (
                <a
                  key={format}
                  className="font-semibold text-felt-ink underline underline-offset-4"
                  href={`/api/sittings/${currentSitting()}/polls.${format}`}
                >
                  {t(format === 'csv' ? 'polls.saveCsv' : 'polls.saveJson')}
                </a>
              ))}
            </p>
          )}
        </div>
      </div>
    </div>
  )
}

/** The question is spoken: one press opens it, without any words. */
function AskAloud({ onAsk }: { onAsk: (form: PollForm) => void }) {
  const { t } = useTranslation()
  const key = useKeymap((map) => map.ask)
  return (
    <section aria-label={t('polls.aloud')}>
      <h3 className="mb-1 text-[0.844rem] font-semibold">{t('polls.aloud')}</h3>
      <div className="flex flex-wrap gap-1.5">
        <Button small onClick={() => onAsk(newForm('yesOrNo'))}>
          {t('polls.kind.yesOrNo')}
        </Button>
        <Button small onClick={() => onAsk(newForm('trueOrFalse'))}>
          {t('polls.kind.trueOrFalse')}
        </Button>
        {[3, 4, 5].map((count) => (
          <Button small key={count} onClick={() => onAsk(lettered(count))}>
            {t('polls.letters', { last: String.fromCharCode(64 + count) })}
          </Button>
        ))}
      </div>
      <p className="mt-1 text-[0.812rem] text-ink2">{t('polls.aloudHint', { key })}</p>
    </section>
  )
}

const mostMissing = 12

function OpenPoll({ poll }: { poll: PollRow }) {
  const { t } = useTranslation()
  const now = useNow()
  const seats = useLive((state) => state.seats)
  const missing = [...seats.values()].filter((seat) => seat.place === 'seated' && seat.note?.voted === false)
  const { form } = poll
  return (
    <section
      aria-label={titleOf(t, form)}
      className="flex flex-col gap-2 border border-l-[5px] border-line border-l-felt-ink bg-raised px-2.5 py-2"
    >
      <h3 className="font-serif text-[1rem] leading-snug font-semibold break-words">{titleOf(t, form)}</h3>
      <p className="text-[0.812rem] text-ink2">
        {t('polls.isOpen', { time: timeOfDay(poll.openedAt) })} · {t(form.secret ? 'polls.secret' : 'polls.named')}
        {poll.endsAt !== null && (
          <b className="font-semibold text-ink"> · {t('polls.left', { time: clock(Math.max(0, poll.endsAt - now)) })}</b>
        )}
      </p>
      <p className="text-[1.062rem] font-semibold">{t('polls.turnout', { voted: poll.turnout ?? 0, count: poll.voters ?? 0 })}</p>
      {form.secret ? (
        <p className="text-[0.812rem] text-ink2">{t('polls.secretLive')}</p>
      ) : (
        poll.result && poll.result.turnout > 0 && <ResultBars live form={form} result={poll.result} />
      )}
      {missing.length > 0 && missing.length <= mostMissing && (
        <p className="text-[0.812rem] text-ink2">{t('polls.missing', { names: listOf(missing.map((seat) => seat.name)) })}</p>
      )}
      <div className="flex flex-wrap gap-1.5">
        <Button look="primary" onClick={() => void wish({ do: 'closePoll' })}>
          {t('polls.close')}
        </Button>
        <Button onClick={() => void wish({ do: 'givePollTime', seconds: 60 })}>{t('polls.moreTime')}</Button>
        <Panel title={t('polls.drop')} trigger={<Button look="end">{t('polls.drop')}</Button>}>
          <p className="mb-2 text-[0.875rem]">{t('polls.dropAsk')}</p>
          <PanelClose asChild>
            <Button look="end" onClick={() => void wish({ do: 'dropPoll' })}>
              {t('polls.dropDo')}
            </Button>
          </PanelClose>
        </Panel>
      </div>
    </section>
  )
}

function ClosedPoll({ poll, onAgain }: { poll: PollRow; onAgain: (() => void) | null }) {
  const { t } = useTranslation()
  const { form, result } = poll
  return (
    <li className={`border border-l-[5px] border-line bg-paper px-2.5 py-2 ${poll.shown ? 'border-l-moss' : 'border-l-edge'}`}>
      <p className="font-serif text-[0.938rem] leading-snug font-semibold break-words">
        {poll.number}. {titleOf(t, form)}
      </p>
      <p className="mb-1.5 text-[0.781rem] text-ink2">
        {t(`polls.kind.${form.kind}`)} · {t(form.secret ? 'polls.secret' : 'polls.named')}
        {poll.closedAt !== null && ` · ${timeOfDay(poll.closedAt)}`}
      </p>
      {result ? (
        <ResultBars form={form} result={result} />
      ) : (
        <p className="text-[0.875rem]">{t(poll.tooFew ? 'polls.tooFew' : poll.lost ? 'polls.lost' : 'polls.counting')}</p>
      )}
      {poll.digest && <p className="mt-1 text-[0.719rem] break-all text-ink2">{t('polls.digest', { digest: poll.digest })}</p>}
      <div className="mt-1.5 flex flex-wrap items-center gap-1.5">
        {result && (
          <Button small onClick={() => void wish({ do: 'showResult', poll: poll.number, on: !poll.shown })}>
            {t(poll.shown ? 'polls.hide' : 'polls.show')}
          </Button>
        )}
        {onAgain && (
          <Button small look="text" onClick={onAgain}>
            {t('polls.again')}
          </Button>
        )}
        {poll.shown && <span className="text-[0.812rem] text-moss">{t('polls.isShown')}</span>}
      </div>
    </li>
  )
}

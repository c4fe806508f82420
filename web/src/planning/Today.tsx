import { clsx } from 'clsx'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState, type FormEvent } from 'react'
import { useTranslation } from 'react-i18next'
import { Link, useNavigate } from 'react-router'
import { guestLink, sessions } from '../api/client'
import type { OpenedSitting, SessionCard } from '../contract.generated'
import { clock, dateAndTime, dayAndTime } from '../i18n'
import { useNow } from '../live/time'
import { Button } from '../ui/Button'
import { CopyButton } from '../ui/CopyButton'
import { DeskPage } from '../ui/DeskPage'
import { Field } from '../ui/Field'
import { isSignedOut, Loading, NotFetched } from '../ui/States'
import { Failure } from '../ui/Failure'
import { joiningText } from './joining'
import { WeekOfSlots } from './WeekOfSlots'

/** As many cards as are drawn before the host asks for more. */
const shownAtFirst = 30

/** The host's start: what is live, what comes next, what is over, and 'open now'. */
export default function Today() {
  const { t } = useTranslation()
  const list = useQuery({ queryKey: ['sessions'], queryFn: sessions.list, refetchInterval: 15_000 })
  // A list that could not be renewed is still of use; one that may not be seen is not.
  if (list.error && (!list.data || isSignedOut(list.error)))
    return <NotFetched error={list.error} onRetry={() => void list.refetch()} />
  if (!list.data) return <Loading />
  const live = list.data.filter((session) => session.live)
  const isOver = (session: SessionCard) =>
    session.cancelled || (session.kind !== 'standing' && session.next === null && session.lastOver !== null)
  const next = list.data.filter((session) => !session.live && !isOver(session)).sort((a, b) => (a.next ?? 0) - (b.next ?? 0))
  const over = list.data
    .filter((session) => !session.live && isOver(session))
    .sort((a, b) => (b.lastOver ?? 0) - (a.lastOver ?? 0))
  return (
    <DeskPage title={t('today.title')}>
      <div className="grid content-start gap-x-10 gap-y-8 lg:grid-cols-[minmax(0,1fr)_320px]">
        <div className="flex flex-col gap-7">
          <Failure of={[list.error]} />
          {list.data.length === 0 && <p className="text-ink2">{t('today.none')}</p>}
          {live.length > 0 && <Bay title={t('today.live')} cards={live} />}
          {next.length > 0 && <Bay title={t('today.next')} cards={next} />}
          {over.length > 0 && <Bay title={t('today.over')} cards={over} />}
          <WeekOfSlots />
        </div>
        <div className="flex flex-col gap-4">
          <OpenNow />
          <Link
            to="/plan/new"
            className="border border-felt bg-paper px-4 py-2.5 text-center text-[0.938rem] font-semibold text-felt-ink hover:bg-felt-soft"
          >
            {t('today.plan')}
          </Link>
        </div>
      </div>
    </DeskPage>
  )
}

function Bay({ title, cards }: { title: string; cards: readonly SessionCard[] }) {
  const { t } = useTranslation()
  const [shown, setShown] = useState(shownAtFirst)
  return (
    <section>
      <h2 className="mb-2 font-serif text-[1.062rem] font-semibold">
        {title} <span className="ml-1 font-sans text-[0.875rem] text-ink2">{cards.length}</span>
      </h2>
      <ul className="flex flex-col gap-1.5">
        {cards.slice(0, shown).map((card) => (
          <Card key={card.id} card={card} />
        ))}
      </ul>
      {cards.length > shown && (
        <Button className="mt-2" onClick={() => setShown(shown + 100)}>
          {t('today.more', { count: cards.length - shown })}
        </Button>
      )}
    </section>
  )
}

const useEnter = () => {
  const navigate = useNavigate()
  const queries = useQueryClient()
  return async (opened: OpenedSitting) => {
    await queries.invalidateQueries()
    await navigate(`/s/${opened.link}`)
  }
}

function Card({ card }: { card: SessionCard }) {
  const { t } = useTranslation()
  const navigate = useNavigate()
  const enter = useEnter()
  const now = useNow()
  const open = useMutation({ mutationFn: (prepare: boolean) => sessions.open(card.id, prepare), onSuccess: enter })
  const facts = [
    card.cancelled ? t('today.cancelled') : null,
    card.owner === null ? null : t('today.of', { name: card.owner }),
    card.next ? dateAndTime(card.next) : null,
    card.kind === 'once' ? null : t(card.kind === 'standing' ? 'today.standing' : 'today.recurring'),
    t('today.expected', { count: card.expected }),
    card.minutes ? t('today.minutes', { count: card.minutes }) : null,
    t('today.door', { mode: t(`door.${card.door}`) }),
  ].filter(Boolean)
  return (
    <li
      className={clsx(
        'flex flex-wrap items-center gap-x-5 gap-y-3 border border-l-[6px] border-line bg-paper px-4',
        `py-3.5 ${card.live ? 'border-l-moss' : 'border-l-seat'}`,
      )}
    >
      <div className="min-w-60 flex-1">
        <h3 className="font-serif text-[1.188rem] leading-tight font-semibold">{card.title}</h3>
        {card.description && <p className="mt-0.5 text-[0.906rem]">{card.description}</p>}
        <p className="mt-1 text-[0.844rem] text-ink2">
          {card.live && card.liveSince !== null ? (
            <strong className="font-semibold text-moss">{t('today.since', { time: clock(now - card.liveSince) })} · </strong>
          ) : null}
          {facts.join(' · ')}
          {!card.live && card.lastOver !== null && ` · ${t('today.lastOver', { when: dayAndTime(card.lastOver) })}`}
        </p>
        <Failure of={[open.error]} className="mt-1" />
      </div>
      <div className="flex flex-wrap gap-2">
        {card.cancelled ? null : card.live ? (
          <Button
            look="primary"
            onClick={() => void navigate(`/s/${card.link}`)}
            aria-label={`${t('today.enter')}: ${card.title}`}
          >
            {t('today.enter')}
          </Button>
        ) : (
          <>
            <Button
              look="primary"
              disabled={open.isPending}
              onClick={() => open.mutate(false)}
              aria-label={`${t('today.open')}: ${card.title}`}
            >
              {open.isPending ? t('today.opening') : t('today.open')}
            </Button>
            <Button
              disabled={open.isPending}
              onClick={() => open.mutate(true)}
              aria-label={`${t('prepare.first')}: ${card.title}`}
            >
              {t('prepare.first')}
            </Button>
          </>
        )}
        <Button onClick={() => void navigate(`/plan/${card.id}`)} aria-label={`${t('today.edit')}: ${card.title}`}>
          {t('today.edit')}
        </Button>
        {!card.cancelled && <CopyButton text={guestLink(card.link)} label={t('today.copyLink')} />}
        {!card.cancelled && <CopyButton text={joiningText(card)} label={t('joining.copy')} />}
      </div>
    </li>
  )
}

function OpenNow() {
  const { t } = useTranslation()
  const enter = useEnter()
  const [title, setTitle] = useState('')
  const open = useMutation({ mutationFn: () => sessions.openNow(title), onSuccess: enter })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    open.mutate()
  }
  return (
    <form onSubmit={submit} className="flex flex-col gap-3 self-start border border-line bg-paper p-5">
      <h2 className="font-serif text-[1.188rem] font-semibold">{t('today.openNow')}</h2>
      <Field
        label={t('today.titleLabel')}
        placeholder={t('today.titlePlaceholder')}
        value={title}
        onChange={(e) => setTitle(e.target.value)}
        error={open.error?.message}
      />
      <Button look="primary" type="submit" disabled={open.isPending} className="self-start">
        {open.isPending ? t('today.opening') : t('today.openNow')}
      </Button>
      <p className="text-[0.844rem] text-ink2">{t('today.opensHint')}</p>
    </form>
  )
}

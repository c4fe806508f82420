import { clsx } from 'clsx'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import { outbox } from '../api/client'
import type { MailState, OutboxRow } from '../contract.generated'
import { dateAndTime, t } from '../i18n'
import { Button } from '../ui/Button'
import { DeskPage } from '../ui/DeskPage'
import { Failure } from '../ui/Failure'

/** The messages that went out, or would have. */
export default function OutboxPage() {
  const { t } = useTranslation()
  const [shown, setShown] = useState<number | null>(null)
  const list = useQuery({ queryKey: ['outbox'], queryFn: outbox.list, refetchInterval: 10_000 })
  return (
    <DeskPage title={t('outbox.title')}>
      <p className="mb-4 max-w-2xl text-[0.906rem] text-ink2">{t('outbox.lead')}</p>
      <Failure of={[list.error]} />
      {list.data?.length === 0 && <p className="text-ink2">{t('outbox.none')}</p>}
      <div className="grid gap-6 lg:grid-cols-[minmax(0,1fr)_minmax(0,1.2fr)]">
        <ul className="flex flex-col gap-1">
          {list.data?.map((row) => (
            <li key={row.id}>
              <button
                aria-pressed={shown === row.id}
                onClick={() => setShown(row.id)}
                className={clsx(
                  `w-full border border-l-[5px] border-line bg-paper px-3 py-2 text-left ${spines[row.state]}`,
                  shown === row.id ? 'outline-2 -outline-offset-1 outline-felt-ink' : '',
                )}
              >
                <span className="flex flex-wrap items-baseline justify-between gap-x-3">
                  <span className="text-[0.906rem] font-semibold">{row.subject}</span>
                  <span className="text-[0.812rem] text-ink2">{dateAndTime(row.at)}</span>
                </span>
                <span className="block text-[0.812rem] break-words text-ink2">{row.to}</span>
                <span className={`block text-[0.812rem] ${row.state === 'givenUp' ? 'font-medium text-brick' : 'text-ink2'}`}>
                  {stateOf(row)}
                </span>
              </button>
            </li>
          ))}
        </ul>
        {shown !== null && <Message key={shown} id={shown} />}
      </div>
    </DeskPage>
  )
}

const spines: Record<MailState, string> = {
  kept: 'border-l-seat',
  waiting: 'border-l-brass',
  sent: 'border-l-moss',
  givenUp: 'border-l-brick',
}

/** Where a message is on its way, with the mail server's words where there are any. */
function stateOf(row: OutboxRow): string {
  const words = row.answer === null ? '' : ` ${t('outbox.answer', { words: row.answer })}`
  const house = row.house ? `${t('outbox.house')} ` : ''
  if (row.state === 'kept') return house + t('outbox.kept')
  if (row.state === 'sent') return house + t('outbox.sent', { when: dateAndTime(row.sentAt ?? row.at) }) + words
  if (row.state === 'givenUp') return house + t('outbox.givenUp') + words
  return house + (row.nextAt === null ? t('outbox.waiting') : t('outbox.next', { when: dateAndTime(row.nextAt) })) + words
}

function Message({ id }: { id: number }) {
  const { t } = useTranslation()
  const queries = useQueryClient()
  const message = useQuery({ queryKey: ['outbox', id], queryFn: () => outbox.get(id) })
  const again = useMutation({
    mutationFn: () => outbox.again(id),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['outbox'] }),
  })
  if (!message.data) return <p className="text-ink2">{message.error?.message ?? t('common.loading')}</p>
  const { row, text, calendar } = message.data
  return (
    <article aria-label={row.subject} className="self-start border border-line bg-paper p-5">
      <h2 className="font-serif text-[1.188rem] font-semibold">{row.subject}</h2>
      <p className="mb-3 text-[0.844rem] text-ink2">{row.to}</p>
      {text === '' && <p className="text-ink2">{t('outbox.secret')}</p>}
      <div className="text-[0.906rem] leading-relaxed break-words whitespace-pre-line">
        {text.split(/(https?:\/\/\S*[^\s.,;:)])/).map((part, i) =>
          /^https?:/.test(part) ? (
            <a key={i} href={part} className="break-all underline underline-offset-2">
              {part}
            </a>
          ) : (
            part
          ),
        )}
      </div>
      {calendar && (
        <details className="mt-4 border-t border-line pt-3">
          <summary className="cursor-pointer text-[0.875rem] font-semibold">{t('outbox.calendar')}</summary>
          {/* Scrolled with the keyboard, so it takes the focus. */}
          {/* eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex */}
          <pre tabIndex={0} className="mt-2 max-h-80 overflow-auto text-[0.75rem]">
            {calendar}
          </pre>
        </details>
      )}
      <p className="mt-4 flex flex-wrap items-center gap-4">
        {row.state !== 'sent' && (
          <Button small disabled={again.isPending} onClick={() => again.mutate()}>
            {t(row.state === 'kept' ? 'outbox.send' : 'outbox.again')}
          </Button>
        )}
        {text !== '' && (
          <a href={`/api/outbox/${id}/message.eml`} className="text-[0.875rem] font-semibold underline underline-offset-4">
            {t('outbox.download')}
          </a>
        )}
      </p>
      <Failure of={[again.error]} className="mt-2" />
    </article>
  )
}

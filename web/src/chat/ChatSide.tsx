import { useVirtualizer } from '@tanstack/react-virtual'
import { useEffect, useLayoutEffect, useRef, useState } from 'react'
import { useTranslation } from 'react-i18next'
import { readingAddress, sittingAddress } from '../api/client'
import type { ChatPage, MeRow } from '../contract.generated'
import { useLive } from '../live/store'
import { Button } from '../ui/Button'
import { Panel } from '../ui/Panel'
import { Compose } from './Compose'
import { lookBack } from './looking'
import { Message } from './Message'
import { openChat, takeOlder, useChat } from './store'

/** What people write. Only the messages in sight are drawn; older ones are read from the server when one comes to them. */
export function ChatSide({ me, sitting }: { me: MeRow; sitting: string }) {
  const { t } = useTranslation()
  const [find, setFind] = useState('')
  const found = useFound(find.trim())
  useEffect(() => {
    openChat(true)
    return () => openChat(false)
  }, [])
  return (
    <section aria-labelledby="chat-title" className="flex min-h-0 min-w-0 flex-1 flex-col">
      <div className="flex items-center gap-2 px-3 pt-2 pb-1.5">
        <h2 id="chat-title" className="font-serif text-[1rem] font-semibold">
          {t('chat.title')}
        </h2>
        <input
          type="search"
          aria-label={t('chat.find')}
          placeholder={t('chat.find')}
          value={find}
          onChange={(e) => setFind(e.target.value)}
          className="h-7 min-w-0 flex-1 border border-line bg-raised px-2 text-[0.812rem]"
        />
        <Panel title={t('chat.saveTitle')} align="end" trigger={<Button small>{t('chat.save')}</Button>}>
          <p className="mb-2 text-[0.844rem] text-ink2">{t('chat.saveHint')}</p>
          <ul className="flex flex-col gap-1 text-[0.906rem]">
            {(['txt', 'csv', 'json'] as const).map((format) => (
              <li key={format}>
                <a
                  href={(format === 'txt' ? readingAddress : sittingAddress)(sitting, `chat.${format}`)}
                  download
                  className="underline underline-offset-4"
                >
                  {t(`chat.format.${format}`)}
                </a>
              </li>
            ))}
          </ul>
        </Panel>
      </div>
      {!me.may.includes('seeChat') && <p className="px-3 pb-2 text-[0.844rem] text-ink2">{t('chat.hidden')}</p>}
      <Spoken />
      {find.trim() ? <Found page={found} /> : <Messages />}
      <Compose me={me} />
    </section>
  )
}

function Messages() {
  const { t } = useTranslation()
  const { rows, older } = useChat()
  const self = useLive((state) => state.me?.seat)
  const list = useRef<HTMLDivElement>(null)
  const atFoot = useRef(true)
  const loading = useRef(false)
  // eslint-disable-next-line react-hooks/incompatible-library
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => list.current,
    estimateSize: () => 64,
    getItemKey: (at) => rows[at]!.number,
    overscan: 8,
    initialRect: { width: 288, height: 560 },
  })
  const newest = rows[rows.length - 1]
  useLayoutEffect(() => {
    if (rows.length > 0 && (atFoot.current || newest?.from === self)) virtual.scrollToIndex(rows.length - 1, { align: 'end' })
  }, [rows.length, newest?.number, newest?.from, self, virtual])

  const goBack = async () => {
    if (loading.current || older === null) return
    loading.current = true
    const first = rows[0]?.number
    await lookBack(
      { before: older, find: null, enough: 1 },
      () => list.current !== null && useChat.getState().rows[0]?.number === first,
      (page) => {
        takeOlder(page)
        if (page.rows.length > 0) requestAnimationFrame(() => virtual.scrollToIndex(page.rows.length, { align: 'start' }))
      },
    )
    loading.current = false
  }
  return (
    <div
      ref={list}
      role="region"
      aria-label={t('chat.messages')}
      // Scrolled with the keyboard, so it takes the focus.
      // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex
      tabIndex={0}
      className="min-h-0 flex-1 overflow-y-auto"
      onScroll={(event) => {
        const { scrollTop, scrollHeight, clientHeight } = event.currentTarget
        atFoot.current = scrollHeight - scrollTop - clientHeight < 40
        if (scrollTop < 80) void goBack()
      }}
    >
      {rows.length === 0 && <p className="px-3 text-[0.875rem] text-ink2">{t('chat.empty')}</p>}
      {older !== null && (
        <Button small look="text" className="mx-2.5" onClick={() => void goBack()}>
          {t('chat.older')}
        </Button>
      )}
      <div className="relative" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map(({ index, key, start }) => {
          const row = rows[index]
          return (
            row && (
              <div
                key={key}
                ref={virtual.measureElement}
                data-index={index}
                className="absolute inset-x-0 top-0 pb-1"
                style={{ transform: `translateY(${start}px)` }}
              >
                <Message row={row} />
              </div>
            )
          )
        })}
      </div>
    </div>
  )
}

/** New messages for those who listen: who wrote, and what, without the buttons that stand beside it. */
function Spoken() {
  const { t } = useTranslation()
  const newest = useChat((state) => state.rows[state.rows.length - 1])
  const self = useLive((state) => state.me?.seat)
  const [first] = useState(newest?.number ?? 0)
  const isNew = newest && newest.number > first && newest.from !== self && newest.deleted === 'none'
  return (
    <p role="log" className="sr-only">
      {isNew ? t('chat.spoken', { name: newest.name ?? t('chat.somebody'), text: newest.text }) : ''}
    </p>
  )
}

/** How many messages are found before it stops looking. */
const enough = 100

type Findings = ChatPage & { find: string; looking: boolean }

/** What the server finds, from a moment after the last key on. */
function useFound(find: string): Findings | null {
  const [found, setFound] = useState<Findings | null>(null)
  useEffect(() => {
    if (!find) return
    let wanted = true
    const timer = setTimeout(
      () =>
        void lookBack(
          { before: null, find, enough },
          () => wanted,
          (page) => setFound({ ...page, find, looking: page.older !== null && page.rows.length < enough }),
        ),
      200,
    )
    return () => {
      wanted = false
      clearTimeout(timer)
    }
  }, [find])
  return found?.find === find ? found : null
}

function Found({ page }: { page: Findings | null }) {
  const { t } = useTranslation()
  if (!page) return <p className="flex-1 px-3 text-[0.875rem] text-ink2">{t('common.loading')}</p>
  const count = page.rows.length
  return (
    <div
      role="region"
      // Scrolled with the keyboard, so it takes the focus.
      // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex
      tabIndex={0}
      aria-label={t('chat.foundLabel')}
      className="flex min-h-0 flex-1 flex-col gap-1 overflow-y-auto"
    >
      <p role="status" className="px-3 text-[0.812rem] text-ink2">
        {page.looking
          ? t('chat.looking', { count })
          : page.older !== null
            ? t('chat.foundMore', { count })
            : t('chat.found', { count })}
      </p>
      {page.rows.map((row) => (
        <Message key={row.number} row={row} found />
      ))}
    </div>
  )
}

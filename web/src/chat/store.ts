import { useEffect, useEffectEvent } from 'react'
import { flushSync } from 'react-dom'
import { create } from 'zustand'
import type { ChatPage, MessageRow, Recipient } from '../contract.generated'
import { useLive } from '../live/store'

interface Chat {
  /** Oldest first, without gaps between them. */
  rows: readonly MessageRow[]
  /** The number before which older ones are asked for; null when there are none. */
  older: number | null
  /** The number of the last message that was before the reader's eyes. */
  read: number
  /** The chat is before the reader's eyes now. */
  open: boolean
  /** To whom the next message goes. Nothing but the reader's choice changes it. */
  to: Recipient
  draft: string
  /** The draft is a question. */
  question: boolean
  /** What was refused while something to somebody else was being written. */
  unsent: readonly Draft[]
}

type Draft = Pick<Chat, 'to' | 'draft' | 'question'>

export const useChat = create<Chat>(() => ({
  rows: [],
  older: null,
  read: 0,
  open: false,
  to: { reach: 'everyone', seat: null },
  draft: '',
  question: false,
  unsent: [],
}))

const last = (rows: readonly MessageRow[]) => rows[rows.length - 1]?.number ?? 0

/** Takes the newest page; what came before entering counts as read. */
export function takePage(page: ChatPage) {
  useChat.setState(({ rows, read, open }) => ({
    rows: page.rows,
    older: page.older,
    read: rows.length === 0 || open ? last(page.rows) : read,
  }))
}

export function takeOlder(page: ChatPage) {
  useChat.setState(({ rows }) => ({ rows: [...page.rows, ...rows], older: page.older }))
}

/** Takes new messages and changed ones; a change of one that is not held has no news for this page. */
export function takeMessages(news: readonly MessageRow[]) {
  useChat.setState(({ rows, read, open }) => {
    const changed = new Map(news.filter((row) => row.number <= last(rows)).map((row) => [row.number, row]))
    const fresh = news.filter((row) => row.number > last(rows))
    const kept = changed.size > 0 ? rows.map((row) => changed.get(row.number) ?? row) : rows
    return { rows: fresh.length > 0 ? [...kept, ...fresh] : kept, read: open ? Math.max(read, last(fresh)) : read }
  })
}

export const openChat = (open: boolean) =>
  useChat.setState(({ rows, read }) => ({ open, read: open ? Math.max(read, last(rows)) : read }))

/** How many messages of others came since the chat was last open. */
export function unreadOf({ rows, read }: Pick<Chat, 'rows' | 'read'>, self: number | undefined): number {
  let count = 0
  for (let at = rows.length - 1; at >= 0 && rows[at]!.number > read; at--)
    if (rows[at]!.from !== self && rows[at]!.deleted === 'none') count++
  return count
}

export const useUnread = () => {
  const self = useLive((state) => state.me?.seat)
  return useChat((state) => unreadOf(state, self))
}

const draftNow = (): Draft => {
  const { to, draft, question } = useChat.getState()
  return { to, draft, question }
}

/** Takes what is written to be sent, so that the next may be written at once, and nothing goes twice. */
export function takeDraft(): Draft {
  const taken = draftNow()
  useChat.setState({ draft: '', question: false })
  return taken
}

/**
 * What could not be sent stands in the field again, before what was written since; when that goes to somebody else, it
 * is kept beside it.
 */
export function giveBack(sent: Draft) {
  const now = draftNow()
  if (now.draft === '') useChat.setState(sent)
  else if (now.to.reach === sent.to.reach && now.to.seat === sent.to.seat)
    useChat.setState({ draft: `${sent.draft}\n${now.draft}`, question: sent.question || now.question })
  else useChat.setState(({ unsent }) => ({ unsent: [...unsent, sent] }))
}

/** Puts what was kept into the field; what stands there is kept in its place. */
export function takeUnsent(at: number) {
  const now = draftNow()
  useChat.setState(({ unsent }) => ({ ...unsent[at], unsent: unsent.toSpliced(at, 1, ...(now.draft === '' ? [] : [now])) }))
}

export const dropUnsent = (at: number) => useChat.setState(({ unsent }) => ({ unsent: unsent.toSpliced(at, 1) }))

/** Asked for by a person's panel; the page of the chat answers with {@link useWriting}. */
const asked = create<{ count: number }>(() => ({ count: 0 }))

/** Brings the chat up with somebody as the recipient. */
export function openChatTo(seat: number) {
  useChat.setState({ to: { reach: 'one', seat } })
  startWriting()
}

/**
 * Brings the chat up and moves the focus there, before the next key is read: a letter that came too early would act.
 * @param show Shows the chat.
 */
export function useWriting(show: () => void) {
  const write = useEffectEvent(() => {
    flushSync(show)
    document.querySelector<HTMLElement>('aside textarea')?.focus()
  })
  useEffect(() => asked.subscribe(() => write()), [])
}

/** Brings the chat up to write in. */
export const startWriting = () => asked.setState(({ count }) => ({ count: count + 1 }))

import { beforeEach, expect, test } from 'vitest'
import type { MessageRow } from '../contract.generated'
import { useLive } from '../live/store'
import {
  dropUnsent,
  giveBack,
  openChat,
  takeDraft,
  takeMessages,
  takeOlder,
  takePage,
  takeUnsent,
  unreadOf,
  useChat,
} from './store'

const row = (number: number, change: Partial<MessageRow> = {}): MessageRow => ({
  number,
  at: number * 1000,
  from: 2,
  name: 'Nia',
  role: 'attendee',
  to: { reach: 'everyone', seat: null },
  toName: null,
  text: `message ${number}`,
  edited: false,
  deleted: 'none',
  room: null,
  question: 'none',
  ...change,
})
const numbers = () => useChat.getState().rows.map((one) => one.number)
const unread = () => unreadOf(useChat.getState(), 1)

beforeEach(() => {
  useChat.setState(useChat.getInitialState(), true)
  useLive.setState(useLive.getInitialState(), true)
  takePage({ rows: [row(4), row(5)], older: 4 })
})

test('what came before entering is read; then messages of others count until the chat is open, one’s own and deleted ones not', () => {
  expect(unread()).toBe(0)
  takeMessages([row(6), row(7, { from: 1 }), row(8, { deleted: 'byBench' })])
  expect(unread()).toBe(1)
  openChat(true)
  takeMessages([row(9)])
  expect(unread()).toBe(0)
  openChat(false)
  takeMessages([row(10)])
  expect(unread()).toBe(1)
})

test('a changed message stays in its place, also when it comes together with a new one, and counts once', () => {
  takeMessages([row(4, { text: 'changed', edited: true }), row(6)])
  expect(numbers()).toEqual([4, 5, 6])
  expect(useChat.getState().rows[0]).toMatchObject({ text: 'changed', edited: true })
  expect(unread()).toBe(1)
})

test('a change of a message that was never loaded brings no gap', () => {
  takeMessages([row(2, { text: 'changed' })])
  expect(numbers()).toEqual([4, 5])
  takeOlder({ rows: [row(2, { text: 'changed' }), row(3)], older: null })
  expect(numbers()).toEqual([2, 3, 4, 5])
  expect(useChat.getState().older).toBe(null)
})

test('after the line was lost, what was missed is unread', () => {
  takePage({ rows: [row(4), row(5), row(6), row(7)], older: 4 })
  expect(unread()).toBe(2)
})

test('what was refused stands there again before what was written since; for another recipient it is kept beside it', () => {
  const nia = { reach: 'one', seat: 2 } as const
  const everyone = { reach: 'everyone', seat: null } as const
  const now = () => [useChat.getState().to, useChat.getState().draft, useChat.getState().question]
  const kept = () => useChat.getState().unsent.map((one) => [one.to, one.draft])
  useChat.setState({ to: nia, draft: 'between us' })
  const sent = takeDraft()
  expect(now()).toEqual([nia, '', false])
  useChat.setState({ draft: 'and more' })
  giveBack(sent)
  expect(now()).toEqual([nia, 'between us\nand more', false])

  useChat.setState({ to: everyone, draft: 'to all', question: true })
  giveBack(sent)
  expect(now()).toEqual([everyone, 'to all', true])
  expect(kept()).toEqual([[nia, 'between us']])
  takeUnsent(0)
  expect(now()).toEqual([nia, 'between us', false])
  expect(kept()).toEqual([[everyone, 'to all']])
  useChat.setState({ draft: '' })
  takeUnsent(0)
  expect(now()).toEqual([everyone, 'to all', true])
  expect(kept()).toEqual([])

  useChat.setState({ to: nia, draft: 'else' })
  giveBack({ to: everyone, draft: 'to all', question: false })
  dropUnsent(0)
  expect(kept()).toEqual([])
  expect(now()).toEqual([nia, 'else', true])
})

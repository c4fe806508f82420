import { expect, test, vi } from 'vitest'
import type { ChatPage, ChatWish, MessageRow } from '../contract.generated'
import { lookBack } from './looking'

const server = vi.hoisted(() => ({ chat: vi.fn<(wish: ChatWish) => Promise<ChatPage | null>>() }))
vi.mock('../live/connection', () => ({ questions: server }))

const row = (number: number) => ({ number, text: `message ${number}` }) as MessageRow

/** Looks through ten at once, and leaves every third question unanswered, as a server does that was asked too often. */
function serverWith(fits: (number: number) => boolean, newest: number) {
  let asked = 0
  server.chat.mockImplementation(({ before }) => {
    if (++asked % 3 === 0) return Promise.resolve(null)
    const to = (before ?? newest + 1) - 1
    const from = Math.max(1, to - 9)
    const rows = Array.from({ length: to - from + 1 }, (_, n) => row(from + n)).filter((one) => fits(one.number))
    return Promise.resolve({ rows, older: from > 1 ? from : null })
  })
}

const look = async (enough: number, before: number | null = null, isWanted = () => true) => {
  vi.useFakeTimers()
  const found: ChatPage[] = []
  const done = lookBack({ before, find: 'x', enough }, isWanted, (page) => found.push(page))
  await vi.runAllTimersAsync()
  await done
  vi.useRealTimers()
  return found
}

test('it looks on until there is nothing older, also when nothing fits for long, and loses nothing to a refused question', async () => {
  serverWith((number) => [3, 41, 95].includes(number), 100)
  const found = await look(50)
  expect(found.at(-1)).toEqual({ rows: [row(3), row(41), row(95)], older: null })
  expect(found.map((page) => page.rows.length)).toEqual([1, 1, 1, 1, 1, 2, 2, 2, 2, 3])
})

test('it stops where there are enough, and says where to go on', async () => {
  serverWith(() => true, 100)
  expect((await look(25)).at(-1)).toMatchObject({ rows: { length: 30 }, older: 71 })
  expect((await look(1, 71)).at(-1)).toMatchObject({ rows: { length: 10, 9: row(70) }, older: 61 })
})

test('nothing is taken once nobody wants it', async () => {
  serverWith(() => true, 100)
  let wanted = 2
  expect(await look(100, null, () => wanted-- > 0)).toHaveLength(1)
})

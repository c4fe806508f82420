// How the bench stands up in a real browser to 1,000 seats, 10,000 messages and 20,000 entries.
// ./start once first (it makes the program), then: node bench/browser.mjs
import { execFileSync } from 'node:child_process'
import path from 'node:path'
import { launch, person, root, row, serve, signIn, stop, temporary } from './server.mjs'

const folder = temporary()
const url = 'http://localhost:5391'

await stop(await serve(url, folder))
const bench = ['run', '-c', 'Release', '--project', path.join(root, 'bench/HoldCourt.Bench'), '--', 'fill', folder]
const link = execFileSync('dotnet', bench, { encoding: 'utf8' }).trim().split('\n').pop()
const server = await serve(url, folder)
const browser = await launch()
const page = await person(browser)
await signIn(page, url)
await page.goto(`${url}/s/${link}`)
await page.getByRole('button', { name: 'Enter as host' }).click()
await page.getByRole('region', { name: 'Board' }).waitFor()

// From asking for the page until strips and messages are drawn.
await page.addInitScript(() => {
  new MutationObserver((_, watcher) => {
    if (document.querySelectorAll('[data-strip]').length < 10 || document.querySelectorAll('[data-message]').length < 3) return
    watcher.disconnect()
    requestAnimationFrame(() => (window.shownAt = performance.now()))
  }).observe(document, { childList: true, subtree: true })
})
const opened = []
for (let n = 0; n < 5; n++) {
  await page.reload()
  await page.waitForFunction(() => window.shownAt)
  opened.push(await page.evaluate(() => window.shownAt))
}

/** Scrolls a list to and fro like a hand on a wheel, and counts the pictures drawn meanwhile. */
const scroll = (selector) =>
  page.evaluate(async (where) => {
    const list = document.querySelector(where)
    const gaps = []
    let [last, direction] = [performance.now(), 1]
    for (const end = last + 5000; last < end;) {
      const now = await new Promise(requestAnimationFrame)
      gaps.push(now - last)
      last = now
      list.scrollTop += 60 * direction
      if (list.scrollTop + list.clientHeight >= list.scrollHeight - 1) direction = -1
      if (list.scrollTop === 0) direction = 1
    }
    gaps.shift()
    gaps.sort((a, b) => a - b)
    return { frames: 1000 / (gaps.reduce((sum, gap) => sum + gap, 0) / gaps.length), p99: gaps[Math.floor(gaps.length * 0.99)] }
  }, selector)
await page.waitForTimeout(3000)
const still = await page.evaluate(async () => {
  let frames = 0
  for (const end = performance.now() + 2000; performance.now() < end; frames++) await new Promise(requestAnimationFrame)
  return frames / 2
})
const board = await scroll('section[aria-label="Board"] .overflow-y-auto')
const chat = await scroll('[role="region"][aria-label="Messages"]')
row('bench shown after a reload: 5 times', opened.map((ms) => `${(ms / 1000).toFixed(2)} s`).join(', '))
row('frames a second while nothing moves', still.toFixed(0))
row('scrolling the board: frames a second, longest of 100 gaps', `${board.frames.toFixed(1)}, ${board.p99.toFixed(0)} ms`)
row('scrolling the chat: frames a second, longest of 100 gaps', `${chat.frames.toFixed(1)}, ${chat.p99.toFixed(0)} ms`)

// 300 people come to the door within five seconds while somebody looks at the board.
const people = 300
await page.goto(url)
await page.getByLabel('Title of the session').fill('Arrivals')
await page.getByRole('button', { name: 'Open a session now' }).click()
await page.getByRole('button', { name: 'Enter as host' }).click()
await page.getByRole('region', { name: 'Board' }).waitFor()
const door = `${url}/api/door/${page.url().split('/').pop()}/announce`
const guests = []
for (let n = 0; n < people; n++) {
  const answer = await fetch(`${url}/api/me`)
  const cookie = answer.headers
    .getSetCookie()
    .map((one) => one.split(';')[0])
    .join('; ')
  guests.push({ cookie, token: (await answer.json()).token })
}
await page.evaluate((all) => {
  window.arrivals = { busy: 0, at: 0 }
  let last = performance.now()
  requestAnimationFrame(function look(now) {
    window.arrivals.busy = Math.max(window.arrivals.busy, now - last)
    last = now
    if (!window.arrivals.at && document.querySelector('header').textContent.includes(`${all} wait`))
      window.arrivals.at = Date.now()
    requestAnimationFrame(look)
  })
}, people)
await Promise.all(
  guests.map(async ({ cookie, token }, n) => {
    await new Promise((go) => setTimeout(go, (5000 * n) / people))
    const headers = { cookie, 'x-csrf': token, 'content-type': 'application/json' }
    const answer = await fetch(door, { method: 'POST', headers, body: JSON.stringify({ name: `Person ${n}` }) })
    if (!answer.ok) throw new Error(`${answer.status} ${await answer.text()}`)
  }),
)
const announced = Date.now()
await page.waitForFunction(() => window.arrivals.at)
const { at, busy } = await page.evaluate(() => window.arrivals)
row(`${people} people announced within 5 s: all drawn after the last answer`, `${((at - announced) / 1000).toFixed(2)} s`)
row('longest time in which the page drew nothing', `${busy.toFixed(0)} ms`)
await browser.close()
await stop(server)

// Takes the pictures of docs/screenshots from the demo: starts the built server on a folder of its own and drives it.
// Run it from the repository's root after ./start has built once: node tools/screenshots.mjs
import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { createRequire } from 'node:module'
import { tmpdir } from 'node:os'
import path from 'node:path'

const { chromium } = createRequire(path.resolve('tests/e2e/package.json'))('@playwright/test')
const base = 'http://localhost:5077'
const data = mkdtempSync(path.join(tmpdir(), 'hold-court-shots-'))
const server = spawn('dotnet', [
  '.build/app/HoldCourt.Server.dll',
  '--urls',
  base,
  '--Data:Folder',
  data,
  '--Demo:Load',
  'true',
  '--Demo:Recording',
  'true',
])
await new Promise((ready) => server.stdout.on('data', (text) => String(text).includes('ready at') && ready()))

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: [
    '--headless',
    '--no-sandbox',
    '--disable-gpu',
    '--use-fake-ui-for-media-stream',
    '--autoplay-policy=no-user-gesture-required',
  ],
})

/** In place of the browser's choice of a screen a drawn map. */
const map = () => {
  const canvas = Object.assign(document.createElement('canvas'), { width: 1280, height: 720 })
  const g = canvas.getContext('2d')
  const draw = () => {
    g.fillStyle = '#fbfaf6'
    g.fillRect(0, 0, 1280, 720)
    g.lineWidth = 44
    g.lineCap = 'round'
    g.strokeStyle = '#9db9c2'
    g.beginPath()
    g.moveTo(120, 660)
    g.bezierCurveTo(320, 420, 560, 620, 760, 320)
    g.bezierCurveTo(860, 190, 1060, 280, 1180, 170)
    g.stroke()
    g.fillStyle = '#1b2330'
    g.font = '600 38px Georgia, serif'
    g.fillText('Upper reach: what needs mending', 60, 90)
    g.font = '26px Arial, sans-serif'
    const places = [
      [330, 520, 'Weir gate: two boards'],
      [700, 400, 'Mill Lane culvert: silt'],
      [960, 262, 'Sallow Bend: bank'],
    ]
    for (const [x, y, what] of places) {
      g.fillStyle = '#a1331f'
      g.fillRect(x - 10, y - 10, 20, 20)
      g.fillStyle = '#1b2330'
      g.fillText(what, x + 26, y + 40)
    }
  }
  navigator.mediaDevices.getDisplayMedia = async () => {
    const stream = canvas.captureStream(15)
    for (const after of [0, 200, 600]) setTimeout(draw, after)
    return stream
  }
}

/** In place of the test camera a drawn figure, the same as the simulated people have. */
const camera = (figure) => {
  const canvas = document.createElement('canvas')
  ;[canvas.width, canvas.height] = [640, 360]
  const g = canvas.getContext('2d')
  setInterval(() => globalThis.drawFigure(g, figure, 'listen', performance.now() / 1000, 6), 100)
  navigator.mediaDevices.getUserMedia = async ({ video }) => {
    if (video) return canvas.captureStream(12)
    const context = new AudioContext()
    return context.createMediaStreamDestination().stream
  }
}

async function person(figure, options = {}, profile = 'light') {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, ...options })
  const page = await context.newPage()
  await page.addInitScript({ path: 'tools/clips/figure.js' })
  await page.addInitScript(camera, figure)
  await page.addInitScript((chosen) => sessionStorage.setItem('profile', chosen), profile)
  return page
}

const settle = (page, milliseconds = 1500) => page.waitForTimeout(milliseconds)
/** Whoever begins to speak is large at once, and sharp a moment later. */
const sharp = (page) =>
  page.waitForFunction(
    () => [...document.querySelectorAll('[data-seat] canvas')].every((one) => one.clientWidth < 320 || one.width >= 320),
    null,
    { timeout: 20_000 },
  )
const shot = async (page, name) => {
  await settle(page)
  await sharp(page)
  await page.screenshot({ path: `docs/screenshots/${name}.png` })
}

const host = await person(9, {}, 'usual')
await host.addInitScript(map)
await host.goto(base)
await host.getByLabel('E-mail').waitFor()
await host.getByLabel('E-mail').fill('odalys@larkmoor.example.org')
await host.getByLabel('Password').fill('heron-ferry-lantern')
await host.getByRole('button', { name: 'Sign in', exact: true }).click()
await host.getByRole('heading', { name: 'Today' }).waitFor()
await host.getByText('Gwen Ashdown').waitFor()
await shot(host, 'today')

// Planning: a recurring session with two people from the contacts, invited.
await host.getByRole('link', { name: 'Plan a session' }).click()
await host.getByLabel('Title', { exact: true }).fill('Upper reach walk')
await host.getByLabel('Description').fill('We walk from the weir to the mill and write down what needs mending.')
await host.getByRole('radio', { name: 'Recurring' }).click()
await host.getByRole('button', { name: 'Make the session' }).click()
await host.getByRole('button', { name: 'From the contacts' }).click()
await host.getByLabel('Group', { exact: true }).selectOption('wardens')
for (const name of ['Mirembe Achan', 'Runa Halvari', 'Teodor Quill']) await host.getByRole('checkbox', { name }).check()
await host.getByRole('button', { name: 'Take 3' }).click()
await host.getByRole('button', { name: 'Keep the docket' }).click()
await host.getByRole('button', { name: 'Invite 3 people by mail' }).click()
await host.getByText('3 messages are in the outbox.').waitFor()
await host.evaluate(() => scrollTo(0, 0))
await shot(host, 'plan')

// The demo's recorded sitting; its film is composed by now, or soon.
await host.goto(`${base}/recordings`)
await host.locator('main img').first().waitFor({ state: 'attached', timeout: 90_000 })
await host.getByRole('heading', { level: 3 }).getByRole('link').first().click()
await host.getByRole('button', { name: 'Play', exact: true }).click()
await host.locator('video').evaluate((video) => {
  video.currentTime = 45
})
await settle(host, 3000)
await shot(host, 'player')
await host.goto(base)

await host.getByRole('button', { name: 'Open the session: Spring' }).click()
await host.getByRole('button', { name: 'Enter as host' }).waitFor()
await shot(host, 'check')
const link = host.url()
await host.getByRole('button', { name: 'Enter as host' }).click()
await host.getByRole('region', { name: 'Board' }).waitFor()

const guest = await person(12)
await guest.goto(link)
await guest.getByLabel('Your name').fill('Lieselotte Hamm')
await guest.getByRole('button', { name: 'Announce me' }).click()
await guest.getByRole('heading', { name: 'You are announced' }).waitFor()
await settle(guest, 4000)
await shot(guest, 'waiting')
await host.getByRole('button', { name: 'M. Delacroix' }).first().waitFor({ timeout: 60_000 })
await host.getByRole('button', { name: 'Admit Lieselotte Hamm' }).click()
await guest.getByTestId('may').waitFor()
// What the simulated people say is read under the attendee's picture.
await host.keyboard.press('Escape')
await host.getByRole('combobox', { name: 'Command line' }).fill('captions by machine')
await host.getByText('captions by machine').first().waitFor()
await host.keyboard.press('Enter')
await guest.keyboard.press('t')
await host.locator('[data-strip]', { hasText: 'Kwabena Osei' }).click()
await host.locator('[data-strip]', { hasText: 'Runa Halvari' }).click({ modifiers: ['Control'] })
await settle(host, 7000)
// The large picture comes small at first.
await host.waitForTimeout(2500)
await shot(host, 'bench')
await shot(guest, 'seat')
await host.emulateMedia({ colorScheme: 'dark' })
await shot(host, 'bench-dark')
await host.emulateMedia({ colorScheme: 'light' })
await host.keyboard.press('Escape')
await host.keyboard.press('f')
await host.getByText('Kwabena Osei has the floor').waitFor()
await settle(host, 6000)
await shot(host, 'floor')
await host.keyboard.press('w')
await settle(host, 3000)
await shot(host, 'wide')
await host.keyboard.press('w')
await host.getByRole('button', { name: /^Orders/ }).click()
await host.getByRole('radio', { name: 'Cameras: presenters' }).hover()
await host.getByText(/would lose: showing the camera/).waitFor()
await shot(host, 'orders')
await host.keyboard.press('Escape')
await host.keyboard.press('r')
await settle(host, 1500)
await shot(host, 'recording')
await host.keyboard.press('Escape')
await host.keyboard.press('F')
await host.keyboard.press('g')
await host.keyboard.press('r')
await host.getByRole('button', { name: 'Next item: Welcome and apologies' }).click()
await settle(host, 3000)
await host.keyboard.press('i')
await settle(host, 9000)
await host.keyboard.press('/')
await host.keyboard.type('microphones for the bench')
await host.getByText(/would lose: speaking/).waitFor()
await shot(host, 'running')
await host.keyboard.press('Escape')
await host.keyboard.press('Escape')
// Teodor pages to the map, and draws over it.
await settle(host, 34_000)
await shot(host, 'exhibit')
await host.getByRole('button', { name: /^Shown/ }).click()
await host.getByRole('button', { name: 'Take down A of Reach map' }).click()
await host.keyboard.press('Escape')
// The item of the year's priorities asks a question; everybody answers.
await host.keyboard.press('/')
await host.keyboard.type('item 4')
await host.keyboard.press('Enter')
await host.keyboard.press('Escape')
await host.keyboard.press('Escape')
await host.keyboard.press('g')
await host.keyboard.press('p')
await settle(host, 16_000)
await host.getByRole('button', { name: 'Close it' }).click()
await host.getByRole('button', { name: 'Show the result to all' }).click()
await host.getByRole('region', { name: 'Closed' }).scrollIntoViewIfNeeded()
await settle(host, 2000)
await shot(host, 'polls')
await host.getByRole('button', { name: 'Hide it again' }).click()
// Everybody is in the rooms of the streams, and two of these want to know something.
await host.keyboard.press('Escape')
await host.keyboard.press('/')
await host.keyboard.type('item 5')
await host.keyboard.press('Enter')
await host.keyboard.press('Escape')
await host.keyboard.press('Escape')
await host.keyboard.press('g')
await host.keyboard.press('m')
await host.getByText(/calls the bench/).first().waitFor({ timeout: 90_000 })
await settle(host, 6_000)
await shot(host, 'rooms')
await host.getByRole('button', { name: 'Close now' }).click()
await host.getByRole('button', { name: 'Bring everybody back now' }).click()
await settle(host, 4_000)
await host.keyboard.press('Escape')
await host.keyboard.press('g')
await host.keyboard.press('c')
await host.getByRole('button', { name: /^Picture/ }).click()
await host.getByRole('radio', { name: /even/ }).click()
await settle(host, 500)
await host.keyboard.press('Escape')
await settle(host, 2500)
await guest.setViewportSize({ width: 390, height: 800 })
// Beside a wide picture the chat was open; on a phone it lies over it.
await guest.getByRole('complementary', { name: 'Beside the picture' }).getByRole('button', { name: 'Chat' }).click()
await settle(guest, 2000)
await shot(guest, 'seat-phone')
await host.keyboard.press('l')
await host
  .getByLabel('What late people read')
  .fill('We have begun with the votes. Please ring the office, and we let you in at the break.')
await host.getByRole('button', { name: 'Lock the door' }).click()
await host.keyboard.press('Escape')
await host.getByRole('button', { name: 'Adjourn…' }).click()
await host.getByRole('button', { name: /^Adjourn, cutting off/ }).click()
await host.getByRole('heading', { name: 'Adjourned' }).waitFor()
await shot(host, 'adjourned')

// An hour of visits, one at a time.
await host.goto(base)
await host.getByRole('button', { name: 'Open the session: Riverbank' }).click()
await host.getByRole('button', { name: 'Enter as host' }).click()
const landholder = await person(7)
await landholder.goto(host.url())
await landholder.getByLabel('Your name').fill('Lieselotte Hamm')
await landholder.getByRole('button', { name: 'Announce me' }).click()
await host.getByRole('button', { name: /^Next: Gwen/ }).click({ timeout: 60_000 })
await settle(host, 45_000)
await host.getByRole('button', { name: /^Door/ }).click()
await host.getByLabel('Notice to everybody in the lobby').fill('We are running a few minutes late. Thank you for waiting.')
await host.getByRole('button', { name: /^Send to/ }).click()
await settle(host, 1500)
await shot(host, 'casework')
await browser.close()
server.kill()
rmSync(data, { recursive: true, force: true })

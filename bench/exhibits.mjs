// Exhibits in real browsers: a captured tab of text until another page has painted it, and what it costs while it stands still; a stroke
// in progress at the others; 5,000 strokes on one sheet.
// ./start --build once first (it makes the program), then: node bench/exhibits.mjs
import { createServer, connect } from 'node:net'
import { createRequire } from 'node:module'
import path from 'node:path'
import { launch, person, root, row, serve, signIn, stop, temporary } from './server.mjs'

const { HubConnectionBuilder } = createRequire(path.join(root, 'web/package.json'))('@microsoft/signalr')
const [port, counted] = [5393, 5394]
const url = `http://localhost:${port}`
const many = 5000

/** A way to the server that counts what comes back by it. */
let received = 0
const way = createServer((near) => {
  const far = connect(port, 'localhost')
  far.on('data', (bytes) => (received += bytes.length))
  near.pipe(far).pipe(near)
  for (const one of [near, far]) one.on('error', () => undefined)
}).listen(counted)

const words = ['heron', 'ferry', 'lantern', 'culvert', 'weir', 'gauge', 'sallow', 'moor']
const text = Array.from({ length: 700 }, (_, n) => words[(n * 7 + (n >> 3)) % words.length]).join(' ')
const pageOfText = `<title>Reach map slides</title><body style="margin:0;background:#fff;font:12px/16px sans-serif;color:#111">
  <canvas id="clock" width="640" height="160" style="position:absolute;left:0;top:0"></canvas>
  <div style="margin-top:170px;columns:4;padding:12px;width:1256px;height:500px;overflow:hidden">${text}</div></body>`

/** On the tab: 16 black and white fields, the milliseconds of now modulo 65,536, so many times a second. */
const runClock = (times) => {
  const context = document.querySelector('#clock').getContext('2d')
  window.ticking = setInterval(() => {
    const now = Math.round(performance.timeOrigin + performance.now()) & 0xffff
    const code = now ^ (now >> 1)
    for (let bit = 0; bit < 16; bit++) {
      context.fillStyle = (code >> bit) & 1 ? 'white' : 'black'
      context.fillRect((bit % 8) * 80, Math.floor(bit / 8) * 80, 80, 80)
    }
  }, 1000 / times)
}

/** Reads the clock off the exhibit at each picture that this page draws. */
const readClock = async (length) => {
  const small = new OffscreenCanvas(8, 2).getContext('2d', {
    willReadFrequently: true,
  })
  const delays = []
  let last = -1
  for (const end = performance.now() + length; performance.now() < end;) {
    await new Promise(requestAnimationFrame)
    const picture = document.querySelector('[data-exhibit] canvas')
    if (!picture?.width) continue
    const scale = picture.width / 1280
    for (let bit = 0; bit < 16; bit++) {
      const [x, y] = [((bit % 8) + 0.5) * 80 * scale, (Math.floor(bit / 8) + 0.5) * 80 * scale]
      small.drawImage(picture, x - 4, y - 4, 8, 8, bit % 8, Math.floor(bit / 8), 1, 1)
    }
    const { data } = small.getImageData(0, 0, 8, 2)
    let code = 0
    for (let bit = 0; bit < 16; bit++) if (data[bit * 4] > 127) code |= 1 << bit
    if (code === last) continue
    last = code
    let value = code
    for (let shift = code >> 1; shift; shift >>= 1) value ^= shift
    const delay = ((Math.round(performance.timeOrigin + performance.now()) & 0xffff) - value) & 0xffff
    if (delay < 5000) delays.push(delay)
  }
  return delays
}

const at = (values, share) => values.sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * share))]

const server = await serve(url, temporary())
const [browser, capturing] = [
  await launch(),
  await launch({
    ignoreDefaultArgs: ['--mute-audio'],
    args: ['--auto-select-tab-capture-source-by-title=Reach map slides'],
  }),
]
const host = await person(browser)
await signIn(host, url)
await host.getByLabel('Title of the session').fill('Exhibits')
await host.getByRole('button', { name: 'Open a session now' }).click()
await quiet(host, 'Enter as host')
await host.getByRole('region', { name: 'Board' }).waitFor()
const link = new URL(host.url()).pathname
const say = async (line) => {
  await host.keyboard.press('Escape')
  await host.keyboard.press('/')
  await host.keyboard.type(line)
  await host.keyboard.press('Enter')
  await host.waitForTimeout(300)
}
await say('door open')
await say('exhibits for everyone')
await say('marks for everyone')

const context = await capturing.newContext({
  viewport: { width: 1280, height: 720 },
})
const tab = await context.newPage()
await tab.setContent(pageOfText)
const teodor = await enter(await context.newPage(), url, 'Teodor Quill')
const nia = await enter(await person(browser), `http://localhost:${counted}`, 'Nia Okafor')
await teodor.getByRole('button', { name: /^Shown/ }).click()

await teodor.getByRole('button', { name: 'Show my screen…' }).click()
await teodor.getByRole('button', { name: 'Show to all' }).click()
await nia.locator('[data-exhibit]').waitFor()
// The sharer's own page shows what the relay forwards, too; nothing else moves.
await tab.evaluate(runClock, 4)
await nia.waitForTimeout(4000)
const delays = await nia.evaluate(readClock, 20_000)
row(
  'a captured tab of text, 1280x720: capture to paint, median, p95',
  `${at(delays, 0.5)} ms, ${at(delays, 0.95)} ms (target: 150 ms)`,
)
row('pictures read', delays.length)
await tab.evaluate(() => clearInterval(window.ticking))
await nia.waitForTimeout(5000)
received = 0
await nia.waitForTimeout(20_000)
row('all that comes to a viewer while it stands still', `${((received * 8) / 20 / 1000).toFixed(1)} kbit/s (target: under 30)`)
await say('close A')
await capturing.close()

// A stroke in progress, from the movement of the hand until another page has painted it.
await host.getByRole('button', { name: /^Shown/ }).click()
await host.getByRole('button', { name: 'Open a sheet' }).click()
await host.getByRole('button', { name: /^Show to all/ }).click()
await host.keyboard.press('Escape')
const jun = await enter(await person(browser), url, 'Jun Takeda')
// Both have the line of what one draws with, so that the sheet stands at the same place for both.
for (const page of [jun, nia]) await page.getByRole('button', { name: 'Draw', exact: true }).click()
await jun.waitForTimeout(2000)
const box = await jun.locator('[data-marks]').boundingBox()
const other = await nia.locator('[data-marks]').boundingBox()
if (box.width !== other.width || box.height !== other.height) throw new Error('The two pages are not alike.')
const drawn = {
  x: box.width * 0.1,
  y: box.height * 0.1,
  width: Math.min(box.width, box.height * 1.6) * 0.8,
}
const strokes = []
await jun.evaluate(() => {
  window.moved = []
  const when = (event) => window.moved.push([event.clientX, performance.timeOrigin + performance.now()])
  document.querySelector('[data-marks]').addEventListener('pointermove', when)
})
for (let stroke = 0; stroke < 12; stroke++) {
  const y = 0.05 + stroke * 0.04
  const points = Array.from({ length: 18 }, (_, n) => 0.1 + n * 0.04)
  const watch = nia.evaluate(watchPlaces, {
    points: points.map((x) => [drawn.x + x * drawn.width, drawn.y + y * drawn.width]),
    length: 4000,
  })
  const across = (x) => box.x + drawn.x + x * drawn.width
  const down = box.y + drawn.y + y * drawn.width
  await jun.mouse.move(across(points[0]), down)
  await jun.mouse.down()
  for (const x of points.slice(1)) {
    await jun.mouse.move(across(x), down)
    await jun.waitForTimeout(30)
  }
  const moved = await jun.evaluate(() => window.moved.splice(0))
  await jun.mouse.up()
  const painted = await watch
  // The first is where the hand went down.
  for (let n = 1; n < points.length; n++) {
    const when = moved.find(([x]) => Math.abs(x - across(points[n])) < 1)
    if (painted[n] && when) strokes.push(painted[n] - when[1])
  }
}
row(
  'a stroke in progress, from the hand to another page: median, p95',
  `${Math.round(at(strokes, 0.5))} ms, ${Math.round(at(strokes, 0.95))} ms of ${strokes.length} places (target: 100 ms)`,
)

// So many strokes, by twelve people; then somebody new comes, and somebody goes on drawing.
const empty = await arrival(nia, 12)
await fill(many)
const full = await arrival(nia, many + 12)
row(
  'a page loaded anew until the sheet is whole: with 12 strokes, with 5,012',
  `${Math.round(empty)} ms, ${Math.round(full)} ms: ${Math.round(full - empty)} ms more (target: 1,000)`,
)
await jun.waitForFunction((count) => Number(document.querySelector('[data-marks]')?.dataset.marks) >= count, many + 12)
await jun.waitForTimeout(2000)
const still = jun.evaluate(countFrames, 5000)
const without = await still
const drawing = jun.evaluate(countFrames, 6000)
await jun.mouse.move(box.x + drawn.x + 40, box.y + drawn.y + 40)
await jun.mouse.down()
for (let n = 0; n < 300; n++) await jun.mouse.move(box.x + drawn.x + 40 + n, box.y + drawn.y + 60 + 20 * Math.sin(n / 6))
const frames = await drawing
await jun.mouse.up()
row(
  'frames a second while one draws over 5,012 strokes (while nothing moves)',
  `${frames.toFixed(1)} (${without.toFixed(1)}) (target: at least 55)`,
)
await browser.close()
way.close()
await stop(server)
process.exit(0)

async function quiet(page, button) {
  await page.getByLabel('Enter with camera on').setChecked(false)
  await page.getByLabel('Enter with microphone on').setChecked(false)
  await page.getByRole('button', { name: button }).click()
}

async function enter(page, address, name) {
  await page.goto(address + link)
  await page.getByLabel('Your name, as others will see it').fill(name)
  await quiet(page, 'Walk in')
  await page.getByTestId('may').waitFor()
  return page
}

/** When something was painted first at each of these places of the surface. */
async function watchPlaces({ points, length }) {
  const live = document.querySelector('[data-marks]')
  const canvases = [live.previousElementSibling, live]
  const times = points.map(() => 0)
  for (const end = performance.now() + length; performance.now() < end && times.includes(0);) {
    await new Promise(requestAnimationFrame)
    const now = performance.timeOrigin + performance.now()
    for (const canvas of canvases) {
      const ratio = canvas.width / canvas.getBoundingClientRect().width
      points.forEach(([x, y], n) => {
        if (
          !times[n] &&
          canvas
            .getContext('2d')
            .getImageData(x * ratio - 2, y * ratio - 2, 4, 4)
            .data.some((value) => value > 0)
        )
          times[n] = now
      })
    }
  }
  return times
}

async function countFrames(length) {
  let frames = 0
  for (const end = performance.now() + length; performance.now() < end; frames++) await new Promise(requestAnimationFrame)
  return frames / (length / 1000)
}

/** Milliseconds from the asking for the page until the sheet has all its strokes. */
async function arrival(page, count) {
  const times = []
  for (let n = 0; n < 3; n++) {
    await page.reload()
    await page.waitForFunction((least) => Number(document.querySelector('[data-marks]')?.dataset.marks) >= least, count, {
      polling: 'raf',
    })
    times.push(await page.evaluate(() => performance.now()))
  }
  return at(times, 0.5)
}

async function fill(count) {
  const people = await Promise.all(
    Array.from({ length: 12 }, async (_, n) => {
      let cookie = ''
      const ask = async (address, more = {}) => {
        const answer = await fetch(`${url}/api/${address}`, {
          ...more,
          headers: { ...more.headers, Cookie: cookie, Origin: url },
        })
        if (!answer.ok) throw new Error(`${address}: ${answer.status}`)
        cookie = [cookie, ...answer.headers.getSetCookie().map((one) => one.split(';')[0])].filter(Boolean).join('; ')
        return answer.json()
      }
      const { token } = await ask('me')
      const { sitting } = await ask(`door/${link.split('/').pop()}/announce`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', 'X-CSRF': token },
        body: JSON.stringify({ name: `Drawer ${n + 1}` }),
      })
      const hub = new HubConnectionBuilder()
        .withUrl(`${url}/live?sitting=${sitting}`, {
          headers: { Cookie: cookie, Origin: url },
        })
        .configureLogging(6)
        .build()
      hub.serverTimeoutInMilliseconds = 120_000
      await hub.start()
      return hub
    }),
  )
  let left = count
  await Promise.all(
    people.map(async (hub, who) => {
      while (left-- > 0) {
        const wish = {
          mark: 'draw',
          page: 1,
          shape: 'pen',
          colour: 'blue',
          width: 30,
          line: lineOf(who, left),
          text: '',
        }
        while (await hub.invoke('Mark', 2, wish)) await new Promise((go) => setTimeout(go, 500))
      }
      await hub.stop()
    }),
  )
}

/** A wave of 30 points somewhere on the sheet, as the server keeps it (Core/Drawing/Mark.cs). */
function lineOf(who, number) {
  const bytes = []
  const put = (value) => {
    let rest = ((value << 1) ^ (value >> 31)) >>> 0
    for (; rest >= 0x80; rest >>>= 7) bytes.push((rest & 0x7f) | 0x80)
    bytes.push(rest)
  }
  put(500 + ((number * 131) % 14_000))
  put(500 + ((number * 71 + who * 500) % 8_000))
  for (let n = 0; n < 29; n++) {
    put(20)
    put(Math.round(40 * Math.cos(n / 2)))
  }
  return Buffer.from(bytes).toString('base64url')
}

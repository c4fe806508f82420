// A film of two hours in a real browser: from pressing play to the first picture that moves, and from a click on the line of time to the
// picture there. The film is the demo's own, one after the other, in the place of the demo's film.
// ./start --build once first (it makes the program), then: node bench/films.mjs
import { execFileSync } from 'node:child_process'
import { readdirSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { launch, person, row, serve, signIn, stop, temporary } from './server.mjs'

const url = 'http://localhost:5395'
const folder = temporary()
const server = await serve(url, folder, ['--Demo:Recording', 'true'])
const browser = await launch({ args: ['--headless', '--autoplay-policy=no-user-gesture-required'] })
const page = await person(browser)
await signIn(page, url)
await page.goto(`${url}/recordings`)
await page.locator('main img').first().waitFor({ state: 'attached', timeout: 180_000 })

const film = readdirSync(folder, { recursive: true }).find((one) => one.endsWith('film.webm'))
const list = path.join(folder, 'list.txt')
writeFileSync(list, `file '${path.join(folder, film)}'\n`.repeat(Math.ceil(7200 / 148)))
const long = path.join(folder, 'long.webm')
execFileSync('ffmpeg', [
  '-loglevel',
  'error',
  '-f',
  'concat',
  '-safe',
  '0',
  '-i',
  list,
  '-c',
  'copy',
  '-cues_to_front',
  '1',
  long,
])
execFileSync('mv', [long, path.join(folder, film)])

await page.getByRole('heading', { level: 3 }).getByRole('link').first().click()
await page.getByRole('button', { name: 'Play', exact: true }).waitFor()
const [length, first] = await page.evaluate(async () => {
  const video = document.querySelector('video')
  if (video.readyState === 0) await new Promise((known) => video.addEventListener('loadedmetadata', known, { once: true }))
  const button = [...document.querySelectorAll('button')].find((one) => one.textContent === 'Play')
  const began = performance.now()
  const shown = new Promise((painted) => video.requestVideoFrameCallback(() => video.requestVideoFrameCallback(painted)))
  button.click()
  await shown
  return [video.duration, performance.now() - began]
})
const seeks = await page.evaluate(async () => {
  const video = document.querySelector('video')
  const taken = []
  for (let n = 0; n < 30; n++) {
    const began = performance.now()
    const there = new Promise((done) => video.addEventListener('seeked', done, { once: true }))
    video.currentTime = (video.duration * ((n * 17 + 5) % 31)) / 31
    await there
    taken.push(performance.now() - began)
  }
  return taken.sort((a, b) => a - b)
})
row('length of the film', `${(length / 3600).toFixed(2)} h`)
row('from pressing play to the second picture', `${first.toFixed(0)} ms (target: within 1,000)`)
row('a seek, of 30', `median ${seeks[15].toFixed(0)} ms, longest ${seeks[29].toFixed(0)} ms (target: within 500)`)
await browser.close()
await stop(server)

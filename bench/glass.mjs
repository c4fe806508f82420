// Glass to glass: from a picture that a page gives to the product as its camera until another page has it on its screen.
// ./start --build once first (it makes the program), then: node bench/glass.mjs
import { launch, person, row, serve, signIn, stop, temporary } from './server.mjs'

const url = 'http://localhost:5392'
const seconds = 20

/** The camera of a page: a clock of 16 black and white fields, the milliseconds of now modulo 65,536, 15 times a second. */
const clockAsCamera = () => {
  navigator.mediaDevices.getUserMedia = async (wish) => {
    const canvas = Object.assign(document.createElement('canvas'), { width: 640, height: 360 })
    const context = canvas.getContext('2d', { alpha: false })
    const draw = () => {
      const now = Math.round(performance.timeOrigin + performance.now()) & 0xffff
      const code = now ^ (now >> 1)
      for (let bit = 0; bit < 16; bit++) {
        context.fillStyle = (code >> bit) & 1 ? 'white' : 'black'
        context.fillRect((bit % 4) * 160, Math.floor(bit / 4) * 90, 160, 90)
      }
    }
    draw()
    setInterval(draw, 1000 / 15)
    const stream = canvas.captureStream(15)
    if (wish.audio) {
      const audio = new AudioContext()
      stream.addTrack(audio.createMediaStreamDestination().stream.getAudioTracks()[0])
    }
    if (!wish.video) stream.removeTrack(stream.getVideoTracks()[0])
    return stream
  }
}

/** Reads the clock off the other's tile at each picture that this page draws. */
const read = async (length) => {
  const small = new OffscreenCanvas(4, 4).getContext('2d', { willReadFrequently: true })
  const delays = []
  let last = -1
  for (const end = performance.now() + length; performance.now() < end;) {
    await new Promise(requestAnimationFrame)
    const tile = [...document.querySelectorAll('[data-seat] canvas, [data-seat] video')].find(
      (one) => one.width > 0 || one.videoWidth > 0,
    )
    if (!tile) continue
    // The middle of each field, so that the edges' blur does not count.
    const [width, height] = [tile.videoWidth || tile.width, tile.videoHeight || tile.height]
    for (let bit = 0; bit < 16; bit++) {
      const [x, y] = [((bit % 4) + 0.5) * (width / 4), (Math.floor(bit / 4) + 0.5) * (height / 4)]
      small.drawImage(tile, x - 4, y - 4, 8, 8, bit % 4, Math.floor(bit / 4), 1, 1)
    }
    const { data } = small.getImageData(0, 0, 4, 4)
    let code = 0
    for (let bit = 0; bit < 16; bit++) if (data[bit * 4] > 127) code |= 1 << bit
    if (code === last) continue
    last = code
    let value = code
    for (let shift = code >> 1; shift; shift >>= 1) value ^= shift
    const now = Math.round(performance.timeOrigin + performance.now()) & 0xffff
    const delay = (now - value) & 0xffff
    if (delay < 2000) delays.push(delay)
  }
  return delays
}

const server = await serve(url, temporary())
const browser = await launch()
const host = await person(browser)
await host.addInitScript(clockAsCamera)
await signIn(host, url)
await host.getByLabel('Title of the session').fill('Glass to glass')
await host.getByRole('button', { name: 'Open a session now' }).click()
await host.getByLabel('Enter with camera on').setChecked(true)
await host.getByLabel('Enter with microphone on').setChecked(false)
await host.getByRole('button', { name: 'Enter as host' }).click()
await host.getByRole('region', { name: 'Board' }).waitFor()

const guest = await person(browser)
await guest.goto(host.url())
await guest.getByLabel('Your name, as others will see it').fill('Nia Okafor')
await guest.getByLabel('Enter with camera on').setChecked(false)
await guest.getByLabel('Enter with microphone on').setChecked(false)
await guest.getByRole('button', { name: 'Announce me' }).click()
await host.getByRole('button', { name: 'Admit Nia Okafor' }).click()
await guest.getByRole('region', { name: 'Picture', exact: true }).waitFor()
await guest.waitForTimeout(5000)
const delays = (await guest.evaluate(read, seconds * 1000)).sort((a, b) => a - b)
const at = (share) => delays[Math.min(delays.length - 1, Math.floor(delays.length * share))]
row('pictures read off the other page', `${delays.length} in ${seconds} s`)
row('glass to glass: median, p95', `${at(0.5)} ms, ${at(0.95)} ms (target: 41 ms, 57 ms)`)
await browser.close()
await stop(server)

import { chromium, expect, test, type Browser, type Page } from '@playwright/test'
import { announce, visitsWithHost, nothingForAxe, openNow, person, strip, type Visits } from './court'

// A real tab, as the browser itself captures it, with its sound: what arrives is compared with the tab.

let court: Visits
let host: Page
let nia: Page
let teodor: Page
let tab: Page
let capturing: Browser

const words = ['heron', 'ferry', 'lantern', 'culvert', 'weir', 'gauge', 'sallow', 'moor']
const text = Array.from({ length: 900 }, (_, n) => words[(n * 7 + (n >> 3)) % words.length]).join(' ')
/** A page of letters of twelve pixels, and the word that stands in its middle. */
const pageOf = (word: string) => `<title>Reach map slides</title>
  <body style="margin:0;background:#fff;font:12px/16px sans-serif;color:#111">
  <div style="columns:4;padding:12px;width:1256px;height:560px;overflow:hidden">${text}</div>
  <p id="word" style="position:absolute;left:60px;top:600px;margin:0;font:12px sans-serif">The word is ${word}.</p></body>`

/** In the page: the luma of what a picture shows at 1280 by 720, as text. */
const lumaOf = `(picture) => {
  const to = new OffscreenCanvas(1280, 720).getContext('2d')
  if (picture.width > 0) to.drawImage(picture, 0, 0, 1280, 720)
  const { data } = to.getImageData(0, 0, 1280, 720)
  let text = ''
  for (let row = 0; row < 720; row++) {
    const luma = new Uint8Array(1280)
    for (let x = 0, at = row * 5120; x < 1280; x++, at += 4) luma[x] = 0.299 * data[at] + 0.587 * data[at + 1] + 0.114 * data[at + 2]
    text += String.fromCharCode(...luma)
  }
  return btoa(text)
}`

const lumaOfCanvas = async (page: Page): Promise<Uint8Array> =>
  Buffer.from(await page.evaluate<string>(`(${lumaOf})(document.querySelector('[data-exhibit] canvas'))`), 'base64')

/** The same of the tab itself, by the browser's own picture of it. */
const lumaOfTab = async (): Promise<Uint8Array> => {
  const png = (await tab.screenshot()).toString('base64')
  const luma = await nia.evaluate<string>(
    `createImageBitmap(new Blob([Uint8Array.from(atob('${png}'), (letter) => letter.charCodeAt(0))])).then(${lumaOf})`,
  )
  return Buffer.from(luma, 'base64')
}

/** Structural similarity (Wang and others, 2004) over windows of eight by eight, of a region. */
function ssim(a: Uint8Array, b: Uint8Array, [left, top, right, bottom]: readonly [number, number, number, number]) {
  const [c1, c2] = [(0.01 * 255) ** 2, (0.03 * 255) ** 2]
  let [sum, count] = [0, 0]
  for (let y = top; y + 8 <= bottom; y += 4)
    for (let x = left; x + 8 <= right; x += 4) {
      let [sa, sb, saa, sbb, sab] = [0, 0, 0, 0, 0]
      for (let j = 0; j < 8; j++)
        for (let i = 0; i < 8; i++) {
          const [p, q] = [a[(y + j) * 1280 + x + i]!, b[(y + j) * 1280 + x + i]!]
          sa += p
          sb += q
          saa += p * p
          sbb += q * q
          sab += p * q
        }
      const [ma, mb] = [sa / 64, sb / 64]
      const [va, vb, cov] = [saa / 64 - ma * ma, sbb / 64 - mb * mb, sab / 64 - ma * mb]
      sum += ((2 * ma * mb + c1) * (2 * cov + c2)) / ((ma * ma + mb * mb + c1) * (va + vb + c2))
      count++
    }
  return sum / count
}

test.beforeAll(async ({ browser }) => {
  ;[court, host] = await visitsWithHost(browser)
  const link = await openNow(host, 'Captured')
  nia = await person(browser, court)
  await announce(nia, link, 'Nia Okafor')
  capturing = await chromium.launch({
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
    ignoreDefaultArgs: ['--mute-audio'],
    args: [
      '--headless',
      '--no-sandbox',
      '--disable-gpu',
      '--autoplay-policy=no-user-gesture-required',
      '--auto-select-tab-capture-source-by-title=Reach map slides',
    ],
  })
  const context = await capturing.newContext({ viewport: { width: 1280, height: 720 } })
  tab = await context.newPage()
  await tab.setContent(pageOf('heron'))
  await tab.evaluate(() => {
    const sound = new AudioContext()
    const tone = new OscillatorNode(sound, { frequency: 440 })
    const side = new StereoPannerNode(sound, { pan: -1 })
    tone
      .connect(side)
      .connect(new GainNode(sound, { gain: 0.5 }))
      .connect(sound.destination)
    tone.start()
  })
  teodor = await context.newPage()
  await teodor.goto(court.url)
  await announce(teodor, link, 'Teodor Quill')
  await host.getByRole('button', { name: 'Select all who wait' }).click()
  await host.getByRole('button', { name: 'Admit 2' }).click()
  await expect(nia.getByTestId('may')).toBeVisible()
  await host.keyboard.press('Escape')
  await strip(host, 'Teodor Quill').click()
  await host.getByRole('button', { name: 'Role…' }).click()
  await host.getByRole('button', { name: 'Make presenter' }).click()
  await host.keyboard.press('Escape')
})
test.afterAll(async () => {
  await capturing?.close()
  await court.stop()
})

test('letters of twelve pixels in a real tab can be read by the others, and its sound is heard', async () => {
  await teodor.getByRole('button', { name: /^Shown/ }).click()
  await teodor.getByRole('button', { name: 'Show my screen…' }).click()
  await expect(teodor.getByText('Only you see this.')).toBeVisible()
  await expect(teodor.getByLabel('With its sound')).toBeChecked()
  await teodor.getByRole('button', { name: 'Show to all' }).click()
  await expect(nia.locator('[data-exhibit]')).toHaveCount(1)
  const region = [0, 0, 1280, 560] as const
  const source = await lumaOfTab()
  await expect
    .poll(async () => ssim(source, await lumaOfCanvas(nia), region), {
      timeout: 30_000,
      message: 'the letters are as sharp as at the source',
    })
    .toBeGreaterThan(0.95)
  // What changes is read back: of all the words it might be, the one that stands there fits.
  await tab.setContent(pageOf('lantern'))
  const place = [56, 596, 240, 620] as const
  const candidates = new Map<string, Uint8Array>()
  for (const word of words) {
    await tab.evaluate((text) => (document.querySelector('#word')!.textContent = text), `The word is ${word}.`)
    candidates.set(word, await lumaOfTab())
  }
  const read = async () => {
    const seen = await lumaOfCanvas(nia)
    return [...candidates].map(([word, luma]) => [ssim(luma, seen, place), word] as const).sort(([a], [b]) => b - a)[0]![1]
  }
  for (const word of ['culvert', 'ferry']) {
    await tab.evaluate((text) => (document.querySelector('#word')!.textContent = text), `The word is ${word}.`)
    await expect.poll(read, { timeout: 20_000 }).toBe(word)
  }
  // Held, it stays; going on, it is what stands there now.
  await teodor.getByRole('button', { name: 'Hold', exact: true }).click()
  await expect(nia.locator('[data-exhibit]').getByText('held')).toBeVisible()
  await tab.evaluate(() => (document.querySelector('#word')!.textContent = 'The word is weir.'))
  await nia.waitForTimeout(1500)
  expect(await read()).toBe('ferry')
  await teodor.getByRole('button', { name: 'Go on' }).click()
  await expect.poll(read).toBe('weir')

  const loud = () =>
    nia.evaluate(() => {
      const { played } = window.holdCourtDiagnostics!()
      return Math.max(0, ...Object.entries(played).map(([from, rms]) => (Number(from) < 0 ? rms : 0)))
    })
  await expect.poll(loud, { timeout: 20_000 }).toBeGreaterThan(0.05)
  await teodor.getByLabel('With its sound').click()
  await expect.poll(loud).toBeLessThan(0.005)
  await nothingForAxe(teodor, 'the own screen with sound')
  // A screen can be drawn over.
  await teodor.keyboard.press('Escape')
  await teodor.locator('[data-exhibit]').getByRole('button', { name: 'Draw', exact: true }).click()
  const box = (await teodor.locator('[data-exhibit] [data-marks]').boundingBox())!
  await teodor.mouse.move(box.x + box.width * 0.3, box.y + box.height * 0.4)
  await teodor.mouse.down()
  await teodor.mouse.move(box.x + box.width * 0.6, box.y + box.height * 0.6, { steps: 5 })
  await teodor.mouse.up()
  await expect(nia.locator('[data-exhibit] [data-marks="1"]')).toBeAttached()
})

test('a tab that is closed by its owner ends everywhere', async () => {
  await tab.close()
  await expect(nia.locator('[data-exhibit]')).toHaveCount(0)
  await expect(teodor.getByRole('button', { name: 'Shown nothing' })).toBeVisible()
})

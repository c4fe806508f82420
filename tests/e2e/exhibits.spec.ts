import { expect, test, type Page } from '@playwright/test'
import { announce, visitsWithHost, nothingForAxe, openNow, person, strip, type Visits } from './court'

// Screens. What the browser would capture is a canvas of one colour, so that the pixels that arrive can be told.

let court: Visits
let host: Page
let teodor: Page
let nia: Page

const colours = { red: [200, 30, 30], green: [30, 160, 60], blue: [40, 60, 200] } as const
type Colour = keyof typeof colours

/** In place of the browser's own choice of a screen. */
const screenOfOneColour = () => {
  const canvas = Object.assign(document.createElement('canvas'), { width: 1280, height: 720 })
  const context = canvas.getContext('2d')!
  let last: readonly number[] = [0, 0, 0]
  const paint = (colour: readonly number[]) => {
    last = colour
    context.fillStyle = `rgb(${colour.join(' ')})`
    context.fillRect(0, 0, 1280, 720)
  }
  navigator.mediaDevices.getDisplayMedia = () => {
    Object.assign(window, { asked: ((window as unknown as { asked?: number }).asked ?? 0) + 1 })
    const stream = canvas.captureStream(15)
    Object.assign(window, { screenTrack: stream.getVideoTracks()[0] })
    // A capture begins with what stands there, however long the one who asked takes to look.
    for (const after of [100, 600, 1500]) setTimeout(() => paint(last), after)
    return Promise.resolve(stream)
  }
  Object.assign(window, { paint })
}

const paint = (colour: Colour) =>
  teodor.evaluate((rgb) => (window as unknown as { paint: (rgb: readonly number[]) => void }).paint(rgb), colours[colour])

/** How often the browser asked for a screen since the page was loaded. */
const asked = () => teodor.evaluate(() => (window as unknown as { asked?: number }).asked ?? 0)

const captures = () =>
  teodor.evaluate(() => (window as unknown as { screenTrack?: MediaStreamTrack }).screenTrack?.readyState ?? 'none')

/** The colour in the middle of an exhibit as a page shows it. */
const colourAt = async (page: Page, where = page.locator('[data-exhibit] canvas')): Promise<Colour | 'other'> => {
  const [r, g, b] = await where.first().evaluate((canvas: HTMLCanvasElement) => {
    const small = new OffscreenCanvas(1, 1).getContext('2d')!
    if (canvas.width > 0) small.drawImage(canvas, canvas.width / 2, canvas.height / 2, 1, 1, 0, 0, 1, 1)
    return [...small.getImageData(0, 0, 1, 1).data]
  })
  const near = Object.entries(colours).find(([, rgb]) => [r, g, b].every((value, i) => Math.abs(value! - rgb[i]!) < 25))
  return (near?.[0] as Colour | undefined) ?? 'other'
}

test.beforeAll(async ({ browser }) => {
  ;[court, host] = await visitsWithHost(browser)
  const link = await openNow(host, 'Exhibits')
  teodor = await person(browser, court)
  await teodor.addInitScript(screenOfOneColour)
  await announce(teodor, link, 'Teodor Quill')
  nia = await person(browser, court)
  await announce(nia, link, 'Nia Okafor')
  await host.getByRole('button', { name: 'Select all who wait' }).click()
  await host.getByRole('button', { name: 'Admit 2' }).click()
  await expect(nia.getByTestId('may')).toBeVisible()
  await host.keyboard.press('Escape')
})
test.afterAll(() => court.stop())

test('a screen is looked at alone, shown, held, and goes on; who comes meanwhile has it at once', async () => {
  await expect(teodor.getByRole('button', { name: /^Shown/ })).toBeHidden()
  await strip(host, 'Teodor Quill').click()
  await host.getByRole('button', { name: 'Role…' }).click()
  await host.getByRole('button', { name: 'Make presenter' }).click()
  await teodor.getByRole('button', { name: /^Shown/ }).click()
  await paint('red')
  await teodor.getByRole('button', { name: 'Show my screen…' }).click()
  await expect(teodor.getByText('Only you see this.')).toBeVisible()
  const preview = teodor.getByRole('region', { name: 'My screen' }).locator('canvas')
  await expect.poll(() => colourAt(teodor, preview), { timeout: 20_000 }).toBe('red')
  await expect(nia.locator('[data-exhibit]')).toHaveCount(0)
  await expect(nia.getByRole('button', { name: /^Shown/ })).toBeHidden()
  await nothingForAxe(teodor, 'the own screen, not shown yet')

  await teodor.getByRole('button', { name: 'Show to all' }).click()
  await expect.poll(() => colourAt(nia), { timeout: 20_000 }).toBe('red')
  await expect(nia.getByText('Teodor Quill shows exhibit A.')).toBeVisible()
  await paint('green')
  await expect.poll(() => colourAt(nia)).toBe('green')
  await expect.poll(() => colourAt(host)).toBe('green')
  // Each may look closer alone.
  const width = (page: Page) =>
    page
      .locator('[data-exhibit] canvas')
      .first()
      .evaluate((canvas) => canvas.clientWidth)
  const whole = await width(nia)
  for (let n = 0; n < 2; n++) await nia.getByRole('button', { name: 'Look closer, for me alone' }).click()
  await expect.poll(() => width(nia)).toBe(2 * whole)
  await nothingForAxe(nia, 'an exhibit looked at closely')
  await nia.locator('[data-exhibit]').getByRole('region').dblclick()
  await expect.poll(() => width(nia)).toBe(whole)

  await teodor.getByRole('button', { name: 'Hold', exact: true }).click()
  await expect(nia.locator('[data-exhibit]').getByText('held')).toBeVisible()
  await paint('blue')
  await nia.reload()
  await expect.poll(() => colourAt(nia), { timeout: 20_000 }).toBe('green')
  await teodor.waitForTimeout(1000)
  expect(await colourAt(host), 'not a picture passes').toBe('green')
  await teodor.getByRole('button', { name: 'Go on' }).click()
  await expect.poll(() => colourAt(nia)).toBe('blue')
  await expect.poll(() => colourAt(host)).toBe('blue')
  const smooth = teodor.getByLabel('Smooth rather than sharp, as for a film')
  await smooth.click()
  await paint('red')
  await expect.poll(() => colourAt(nia)).toBe('red')
  await smooth.click()
  await paint('blue')
  await expect.poll(() => colourAt(host)).toBe('blue')
})

test('the bench takes down and closes; whoever may show nothing any more captures nothing any more', async () => {
  await host.keyboard.press('Escape')
  await host.getByRole('button', { name: /^Shown/ }).click()
  await nothingForAxe(host, 'the shelf')
  await host.getByRole('button', { name: 'Take down A of Teodor Quill' }).click()
  await expect(nia.locator('[data-exhibit]')).toHaveCount(0)
  await expect(teodor.getByText('Your screen is not shown any more.')).toBeVisible()
  await expect(teodor.getByText('Only you see this.')).toBeVisible()
  expect(await captures()).toBe('live')
  await teodor.getByRole('button', { name: 'Show to all' }).click()
  await expect.poll(() => colourAt(nia)).toBe('blue')

  await host.keyboard.press('Escape')
  await host.keyboard.press('/')
  await host.keyboard.type('exhibits for the bench')
  await host.keyboard.press('Enter')
  await expect(nia.locator('[data-exhibit]')).toHaveCount(0)
  await expect.poll(captures).toBe('ended')
  await host.keyboard.press('Escape')
  await host.keyboard.press('Control+z')
  await expect(teodor.getByRole('button', { name: /^Shown/ })).toBeVisible()
  await expect(nia.locator('[data-exhibit]')).toHaveCount(0)
})

test('a page that is loaded anew captures nothing, and nothing of it stays on the shelf', async () => {
  if (!(await teodor.getByRole('button', { name: 'Show my screen…' }).isVisible()))
    await teodor.getByRole('button', { name: /^Shown/ }).click()
  await teodor.getByRole('button', { name: 'Show my screen…' }).click()
  await teodor.getByRole('button', { name: 'Show to all' }).click()
  await expect.poll(() => colourAt(nia), { timeout: 20_000 }).toBe('blue')
  await teodor.reload()
  await expect(teodor.getByTestId('may')).toBeVisible()
  await expect(nia.locator('[data-exhibit]')).toHaveCount(0)
  await teodor.getByRole('button', { name: /^Shown/ }).click()
  await teodor.getByRole('button', { name: 'Show my screen…' }).click()
  await teodor.getByRole('button', { name: 'Show to all' }).click()
  await expect(nia.locator('[data-exhibit]')).toHaveCount(1)
  // Closed by its owner, or by the browser's own stop, it is closed, and nothing is asked anew.
  const own = teodor.getByRole('region', { name: 'My screen' })
  await own.getByRole('button', { name: 'Close' }).click()
  await expect(nia.locator('[data-exhibit]')).toHaveCount(0)
  await expect.poll(captures).toBe('ended')
  await teodor.waitForTimeout(500)
  expect(await asked()).toBe(1)
  await teodor.getByRole('button', { name: 'Show my screen…' }).click()
  await teodor.getByRole('button', { name: 'Show to all' }).click()
  await expect(nia.locator('[data-exhibit]')).toHaveCount(1)
  await teodor.evaluate(() => {
    const { screenTrack } = window as unknown as { screenTrack: MediaStreamTrack }
    screenTrack.dispatchEvent(new Event('ended'))
  })
  await expect(nia.locator('[data-exhibit]')).toHaveCount(0)
  await teodor.waitForTimeout(500)
  expect(await asked()).toBe(2)
  await teodor.getByRole('button', { name: 'Show my screen…' }).click()
  await teodor.getByRole('button', { name: 'Show to all' }).click()
  await expect(nia.locator('[data-exhibit]')).toHaveCount(1)
  await host.keyboard.press('Escape')
  await strip(host, 'Teodor Quill').click()
  await host.keyboard.press('b')
  await expect(nia.locator('[data-exhibit]')).toHaveCount(0)
  await expect.poll(captures).toBe('ended')
})

test('whoever may enters and shows a screen in one step', async ({ browser }) => {
  await host.keyboard.press('Escape')
  for (const line of ['door open', 'exhibits for everyone']) {
    await host.keyboard.press('/')
    await host.keyboard.type(line)
    await host.keyboard.press('Enter')
    await host.keyboard.press('Escape')
  }
  const ilse = await person(browser, court)
  await ilse.addInitScript(screenOfOneColour)
  await ilse.goto(await nia.url())
  await ilse.getByLabel('Your name, as others will see it').fill('Ilse Vantorre')
  await ilse.evaluate((rgb) => (window as unknown as { paint: (rgb: readonly number[]) => void }).paint(rgb), colours.green)
  await ilse.getByRole('button', { name: 'Enter and show my screen…' }).click()
  await expect.poll(() => colourAt(nia), { timeout: 20_000 }).toBe('green')
  await expect(nia.getByText('Ilse Vantorre shows exhibit')).toBeVisible()
})

import { expect, test, type Page } from '@playwright/test'
import { announce, courtWithHost, nothingForAxe, openNow, person, type Court } from './court'

// From the first word about a recording to its film, in real browsers.

test.describe.configure({ mode: 'serial' })

let court: Court
let host: Page
let nia: Page
let ansel: Page
let link: string

test.beforeAll(async ({ browser }) => {
  ;[court, host] = await courtWithHost(browser)
  link = await openNow(host, 'Flood season')
})
test.afterAll(() => court.stop())

const says = async (sentence: string) => {
  await host.keyboard.press('Escape')
  await host.getByRole('combobox', { name: 'Command line' }).fill(sentence)
  await host.keyboard.press('Enter')
}

/** How far the film is played, in seconds, and whether a picture stands there. */
const film = (page: Page) =>
  page.locator('video').evaluate((video: HTMLVideoElement) => {
    const canvas = document.createElement('canvas')
    ;[canvas.width, canvas.height] = [32, 18]
    const context = canvas.getContext('2d')!
    context.drawImage(video, 0, 0, 32, 18)
    const bytes = context.getImageData(0, 0, 32, 18).data
    const light = bytes.filter((_, at) => at % 4 !== 3).reduce((most, one) => Math.max(most, one), 0)
    return { at: video.currentTime, length: video.duration, light, error: video.error?.message ?? null }
  })

test('everybody is told before they enter and asked inside, and who is in it stands in the panel', async ({ browser }) => {
  await host.keyboard.press('r')
  await expect(host.getByRole('dialog', { name: 'Recording' })).toBeVisible()
  await host.getByRole('checkbox', { name: 'Ask each person first' }).click()
  await host.getByRole('radio', { name: 'Those who were there' }).click()
  await expect(host.getByRole('radio', { name: 'Those who were there' })).toBeChecked()
  await expect(host.getByRole('checkbox', { name: 'Ask each person first' })).toBeChecked()
  await nothingForAxe(host, 'the panel of the recording')
  await host.getByRole('button', { name: 'Start recording' }).click()
  await expect(host.getByRole('button', { name: /^Recording\s*0:0/ })).toBeVisible()

  nia = await person(browser, court)
  ansel = await person(browser, court)
  await nia.goto(link)
  await expect(nia.getByText('Nothing of you is, until you agree to it inside.')).toBeVisible()
  await announce(nia, link, 'Nia Okafor', { camera: true, microphone: true })
  await announce(ansel, link, 'Ansel Roope', { camera: true })
  await expect(nia.getByText('This session is being recorded.')).toBeVisible()
  await host.keyboard.press('Escape')
  await host.getByRole('button', { name: 'Select all who wait' }).click()
  await host.getByRole('button', { name: 'Admit 2' }).click()
  const card = nia.getByRole('alert', { name: 'This session is recorded' })
  await expect(card).toContainText('Nothing of you is recorded until you agree.')
  await expect(card).toContainText('Afterwards those see it who were there.')
  await nothingForAxe(nia, 'the question before a recording')
  await card.getByRole('button', { name: 'Agree' }).click()
  await expect(card).toBeHidden()
  await expect(nia.getByRole('button', { name: /^Recording\s*0:/ }), 'the mark stays').toBeVisible()
  await ansel.getByRole('button', { name: 'Take part unrecorded' }).click()
  await expect(ansel.getByRole('button', { name: /^Recording\s*without you/ })).toBeVisible()
  await host.keyboard.press('r')
  await expect(host.getByText('Left out: 1').locator('xpath=..')).toContainText('Ansel Roope')
  await host.keyboard.press('Escape')
})

test('a killed server makes a gap, a pause is taken out, and both stay one recording', async () => {
  await nia.waitForTimeout(3_000)
  await court.killAndRestart()
  await expect(host.getByRole('region', { name: 'Board' }).getByText('Nia Okafor')).toBeVisible({ timeout: 20_000 })
  await expect(host.getByRole('button', { name: /^Recording\s*0:/ })).toBeVisible({ timeout: 20_000 })
  await nia.waitForTimeout(4_000)
  // A sentence typed before the line is back is refused, and typed again.
  await expect(async () => {
    await says('pause the recording')
    await expect(nia.getByRole('button', { name: /^Recording.*paused/ })).toBeVisible({ timeout: 3_000 })
  }).toPass()
  await nia.waitForTimeout(3_000)
  await says('go on with the recording')
  await nia.waitForTimeout(3_000)
  await says('stop the recording')
  await expect(host.getByRole('button', { name: /^Recording\s*off/ })).toBeVisible()
  await expect(nia.getByText('The recording has ended.')).toBeVisible()
  await expect(nia.getByRole('button', { name: /^Recording/ })).toBeHidden()
})

test('the film comes by itself, plays, and is sought by chapters, keys and the line of time', async () => {
  const library = await host.context().newPage()
  await library.goto(`${court.url}/recordings`)
  await expect(library.getByRole('heading', { name: 'Flood season' })).toBeVisible()
  await nothingForAxe(library, 'the library')
  await library.getByRole('link', { name: 'Flood season' }).click()
  await expect(library.getByRole('button', { name: 'Play', exact: true })).toBeVisible({ timeout: 180_000 })
  await nothingForAxe(library, 'a recording')
  await library.getByRole('button', { name: 'Play', exact: true }).click()
  await expect.poll(async () => (await film(library)).at).toBeGreaterThan(1)
  const now = await film(library)
  expect(now.error).toBeNull()
  expect(now.light).toBeGreaterThan(60)
  expect(now.length).toBeGreaterThan(7)
  // What lay between, the server down and the pause, is not in it.
  expect(now.length).toBeLessThan(60)
  const chapters = library.getByRole('navigation', { name: 'Chapters' })
  await expect(chapters.getByRole('button')).toHaveText([/Beginning/, /After a pause/, /After a pause/])
  await chapters.getByRole('button').last().click()
  const there = (await film(library)).at
  expect(there).toBeGreaterThan(4)
  await library.keyboard.press('PageUp')
  await library.keyboard.press('PageUp')
  await library.keyboard.press('PageUp')
  await expect.poll(async () => (await film(library)).at).toBeLessThan(there)
  await library.getByRole('slider', { name: 'Line of time' }).focus()
  await library.keyboard.press('End')
  await expect.poll(async () => (await film(library)).at).toBeGreaterThan(now.length - 2)
  await expect(library.getByText('Ansel Roope: left out')).toBeVisible()
  await expect(library.getByRole('button', { name: 'Take out: Ansel Roope' }), 'in no track').toBeHidden()
  await expect(library.getByRole('button', { name: 'Take out: Nia Okafor' })).toBeVisible()
  await library.getByLabel('Folder').fill('Spring')
  await library.getByRole('button', { name: 'Keep', exact: true }).click()
  await library.getByRole('link', { name: 'Recordings' }).click()
  await expect(library.getByRole('heading', { name: /Spring/ })).toBeVisible()
  await library.close()
})

test('whoever was there finds it at the end, a link with a passcode opens it, and nobody else sees it', async ({ browser }) => {
  await says('adjourn')
  // What cannot be taken back wants a second Enter, which counts from when it is asked.
  await expect(host.getByText(/Enter again adjourns/)).toBeVisible()
  await host.keyboard.press('Enter')
  await expect(nia.getByRole('link', { name: /Flood season/ })).toBeVisible({ timeout: 15_000 })
  await nia.getByRole('link', { name: /Flood season/ }).click()
  await nia.getByRole('button', { name: 'Play', exact: true }).click()
  await expect.poll(async () => (await film(nia)).at).toBeGreaterThan(0.3)
  await expect(nia.getByText('People in it')).toBeHidden()
  const address = nia.url()
  const stranger = await person(browser, court)
  await stranger.goto(address)
  await expect(stranger.getByRole('heading', { name: 'There is no such recording, or it is not for you' })).toBeVisible()

  await host.goto(address)
  await host.getByLabel('Passcode (may be empty)').fill('heron')
  await host.getByRole('button', { name: 'Make a link' }).click()
  const shared = await host.getByText(/\/shared#/).textContent()
  await stranger.goto(shared!)
  await stranger.getByLabel('Passcode').fill('herons')
  await stranger.getByRole('button', { name: 'Open' }).click()
  await expect(stranger.getByText('That is not the passcode of this link.')).toBeVisible()
  await nothingForAxe(stranger, 'a shared link')
  await stranger.getByLabel('Passcode').fill('heron')
  await stranger.keyboard.press('Enter')
  await expect(stranger.getByRole('button', { name: 'Play', exact: true })).toBeVisible()
  await host.getByRole('list', { name: 'Links' }).getByRole('button', { name: 'Take it back' }).click()
  await expect(host.getByRole('list', { name: 'Links' })).toBeHidden()
  await stranger.reload()
  await expect(stranger.getByRole('heading', { name: 'There is no such recording, or it is not for you' })).toBeVisible()
})

import { expect, test, type Page } from '@playwright/test'
import {
  aMoment,
  announce,
  audible,
  type Visits,
  visitsWithHost,
  Line,
  loudness,
  nothingForAxe,
  openNow,
  person,
  pictures,
  strip,
} from './court'

let court: Visits
let host: Page
let link: string
let nia: Page
let jun: Page
test.beforeAll(async ({ browser }) => {
  ;[court, host] = await visitsWithHost(browser)
  link = await openNow(host, 'From the bench')
  nia = await person(browser, court)
  await announce(nia, link, 'Nia Okafor', { camera: true, microphone: true })
  jun = await person(browser, court)
  await announce(jun, link, 'Jun Takeda', { microphone: true })
})
test.afterAll(() => court.stop())

const strips = (name: string) => strip(host, name).locator('[data-strip]')

test('by keys alone: two are selected, admitted, muted, and given back', async () => {
  await expect(strips('Jun Takeda')).toBeVisible()
  await strips('Nia Okafor').focus()
  await host.keyboard.press('Space')
  await host.keyboard.press('ArrowDown')
  await host.keyboard.press('Space')
  await expect(host.getByRole('button', { name: 'Admit 2' })).toBeVisible()
  await host.keyboard.press('a')
  await expect(nia.getByTestId('may')).toBeVisible()
  await expect(jun.getByTestId('may')).toBeVisible()
  await expect(nia.getByRole('button', { name: 'Mic on' })).toBeVisible()
  await expect(jun.getByRole('button', { name: 'Mic on' })).toBeVisible()
  await aMoment(host)
  await host.keyboard.press('q')
  await expect(nia.getByText('The bench has muted you.')).toBeVisible()
  await expect(jun.getByText('The bench has muted you.')).toBeVisible()
  await host.keyboard.press('Control+z')
  await expect(jun.getByRole('button', { name: 'Mic on' })).toBeVisible()
  await expect(nia.getByRole('button', { name: 'Mic on' })).toBeVisible()
  await host.keyboard.press('Escape')
})

test('mute everyone gives back exactly those who were open', async () => {
  await jun.getByRole('button', { name: 'Mic on' }).click()
  await expect(jun.getByRole('button', { name: 'Mic off' })).toBeVisible()
  await host.getByRole('button', { name: 'Mute everyone' }).click()
  await expect(nia.getByRole('button', { name: 'Mic off' })).toBeVisible()
  await host.getByRole('button', { name: /^Take back: muting/ }).click()
  await expect(nia.getByRole('button', { name: 'Mic on' })).toBeVisible()
  await expect(jun.getByRole('button', { name: 'Mic off' })).toBeVisible()
})

test('asked to unmute and refused; then agreed for good, so that the bench may open the microphone', async () => {
  await host.getByRole('button', { name: /^Ask to unmute Jun Takeda/ }).click()
  await expect(jun.getByRole('heading', { name: 'Odalys Brandt asks you to unmute' })).toBeVisible()
  await expect(strip(host, 'Jun Takeda')).toContainText('asked to unmute')
  await jun.getByRole('button', { name: 'Not now' }).click()
  await expect(jun.getByRole('heading', { name: 'Odalys Brandt asks you to unmute' })).toBeHidden()
  await expect(jun.getByRole('button', { name: 'Mic off' })).toBeVisible()

  await host.getByRole('button', { name: /^Ask to unmute Jun Takeda/ }).click()
  await jun.getByLabel('The bench may open my microphone from now on, in this sitting').check()
  await jun.getByRole('button', { name: 'Open my microphone' }).click()
  await expect(jun.getByRole('button', { name: 'Mic on' })).toBeVisible()
  await aMoment(host)
  await host.getByRole('button', { name: /^Mute Jun Takeda/ }).click()
  await expect(jun.getByRole('button', { name: 'Mic off' })).toBeVisible()
  await aMoment(host)
  await host.getByRole('button', { name: /^Unmute Jun Takeda/ }).click()
  await expect(jun.getByRole('button', { name: 'Mic on' })).toBeVisible()
})

test('a camera turned off by the bench stops at the other side and is said; renaming is seen by all', async () => {
  await expect.poll(() => pictures(host, 'Nia Okafor'), { timeout: 30_000 }).toBeGreaterThan(10)
  await host.getByRole('button', { name: 'Turn off the camera of Nia Okafor' }).click()
  await expect(nia.getByText('The bench has turned your camera off.')).toBeVisible()
  await host.waitForTimeout(500)
  const frozen = await pictures(host, 'Nia Okafor')
  await host.waitForTimeout(1200)
  expect(await pictures(host, 'Nia Okafor')).toBe(frozen)
  await nia.getByRole('button', { name: 'Cam off' }).click()
  await expect.poll(() => pictures(host, 'Nia Okafor')).toBeGreaterThan(frozen + 5)

  await host.getByRole('button', { name: 'Open Jun Takeda' }).click()
  await host.getByLabel('Name shown to all').fill('Jun Takeda, upper reach')
  await host.getByRole('button', { name: 'Rename' }).click()
  await expect(nia.locator('[data-seat]', { hasText: 'Jun Takeda, upper reach' })).toBeVisible()
  await jun.getByRole('button', { name: /My name and devices/ }).click()
  await jun.getByLabel('Name shown to all').fill('\u202Eemos')
  await jun.getByRole('button', { name: 'Save the name' }).click()
  await expect(jun.getByText('That name holds characters that cannot be seen, or that turn the text around.')).toBeVisible()
  await jun.keyboard.press('Escape')
})

test('attendees who may not see each other do not, and read what they may do', async () => {
  await host.getByRole('button', { name: 'Orders usual' }).click()
  await host.getByRole('radio', { name: 'List of people: presenters' }).click()
  await expect(nia.locator('[data-seat]', { hasText: 'Jun Takeda' })).toHaveCount(0)
  await expect(nia.locator('[data-seat]', { hasText: 'Odalys Brandt' })).toBeVisible()
  await host.getByRole('radio', { name: 'Cameras: presenters' }).click()
  await host.keyboard.press('Escape')
  await expect(nia.getByTestId('may')).toContainText('Cameras are for presenters and the bench at the moment.')
  await nia.getByRole('button', { name: 'Cam off' }).click()
  await expect(nia.getByText('Cameras are not open to you at the moment. Ask Odalys Brandt, the host.')).toBeVisible()
  await host.keyboard.press('Control+z')
  await host.keyboard.press('Control+z')
  await expect(nia.locator('[data-seat]', { hasText: 'Jun Takeda' })).toBeVisible()
})

test('when the media socket breaks it is said, and pictures and sound come back by themselves', async () => {
  const line = await Line.to(court)
  await jun.goto(link.replace(court.url, line.url))
  await expect(jun.getByRole('button', { name: /Mic on/ })).toBeVisible()
  await expect.poll(() => pictures(jun, 'Nia Okafor'), { timeout: 30_000 }).toBeGreaterThan(5)
  line.cut('/media')
  await expect(jun.getByText('Pictures and voices are interrupted; trying again…')).toBeVisible()
  await expect(jun.getByText('Pictures and voices are interrupted; trying again…')).toBeHidden()
  const before = await pictures(jun, 'Nia Okafor')
  await expect.poll(() => pictures(jun, 'Nia Okafor'), { timeout: 30_000 }).toBeGreaterThan(before + 5)
  await expect.poll(() => loudness(host), { timeout: 30_000 }).toBeGreaterThan(audible)

  await test.step('and when nothing at all goes through, that is said, and the seat is kept', async () => {
    line.down = true
    await expect(jun.getByText('The connection is lost. Your seat is kept; trying again…')).toBeVisible()
    await expect(strip(host, 'Jun Takeda')).toContainText('connection lost')
    line.down = false
    await expect(jun.getByText('The connection is lost. Your seat is kept; trying again…')).toBeHidden()
    await expect(jun.getByRole('button', { name: /Mic on/ })).toBeVisible()
    await expect.poll(() => loudness(host), { timeout: 30_000 }).toBeGreaterThan(audible)
  })
  await jun.goto(link)
  await line.close()
})

test('the host leaves by handing over; the deputy leads, and the former host comes back as a deputy', async () => {
  await host.getByRole('button', { name: 'Leave…' }).click()
  await nothingForAxe(host, 'leave panel')
  await host.getByLabel('Choose who leads').selectOption({ label: 'Nia Okafor, attendee' })
  await host.getByRole('button', { name: 'Hand over to Nia Okafor and leave' }).click()
  await expect(host.getByRole('heading', { name: 'You left' })).toBeVisible()
  await expect(nia.getByRole('region', { name: 'Board' })).toBeVisible()
  await expect(nia.getByText('you, host')).toBeVisible()
  await host.getByRole('button', { name: 'Come back in' }).click()
  await expect(host.getByText('you, deputy')).toBeVisible()
  await host.getByRole('button', { name: 'Leave', exact: true }).click()
  await host.goto(link)
  await host.getByRole('button', { name: 'Enter as deputy' }).click()
  await expect(host.getByText('you, deputy')).toBeVisible()
})

test('a microphone of which nothing comes is never shown as on; one that is pulled out is off for everybody', async ({
  browser,
}) => {
  const pilar = await person(browser, court)
  await pilar.addInitScript(() => {
    const { mediaDevices } = navigator
    const take = mediaDevices.getUserMedia.bind(mediaDevices)
    mediaDevices.getUserMedia = async (wish) => {
      const stream = await take(wish)
      Object.assign(window, { taken: stream })
      return stream
    }
    // As in a browser without a sound device: its audio never runs, and no sample leaves it.
    const { resume } = AudioContext.prototype
    AudioContext.prototype.resume = function () {
      return 'hasDevice' in window ? resume.call(this) : this.suspend()
    }
  })
  await announce(pilar, link, 'Pilar Mestre', { microphone: true })
  await host.getByRole('button', { name: 'Admit Pilar Mestre' }).click()
  const seen: string[] = []
  const own = pilar.getByRole('region', { name: 'My strip' }).getByRole('button', { name: /^Mic / })
  await expect(async () => {
    seen.push((await own.textContent()) ?? '')
    expect(seen.at(-1)).toContain('Mic off')
    expect(seen.join()).toContain('not sending')
  }).toPass({ intervals: [100], timeout: 30_000 })
  expect(seen.join()).not.toContain('Mic on')
  await expect(pilar.getByRole('alert')).toContainText('Nothing came from the microphone, so it is off.')
  await expect(strip(host, 'Pilar Mestre').getByRole('button', { name: /microphone closed/ })).toBeVisible()

  await expect(pilar.getByText('The sound does not start.')).toBeVisible()
  await pilar.evaluate(() => Object.assign(window, { hasDevice: true }))
  await pilar.getByRole('button', { name: 'Try again' }).click()
  await expect(pilar.getByText('The sound does not start.')).toBeHidden()
  await pilar.getByRole('button', { name: 'Mic off' }).click()
  await expect(pilar.getByRole('button', { name: 'Mic on' })).toBeVisible()
  await pilar.evaluate(() => {
    const { taken } = window as unknown as { taken: MediaStream }
    taken.getAudioTracks()[0]!.dispatchEvent(new Event('ended'))
  })
  await expect(pilar.getByRole('alert')).toContainText('The microphone was disconnected, so it is off.')
  await expect(pilar.getByRole('button', { name: 'Mic off' })).toBeVisible()
  await expect(strip(host, 'Pilar Mestre').getByRole('button', { name: /microphone closed/ })).toBeVisible()
  await pilar.context().close()
})

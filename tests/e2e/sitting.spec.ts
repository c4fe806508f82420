import { expect, test } from '@playwright/test'
import { aMoment, announce, audible, Court, loudness, nothingForAxe, openNow, person, pictures, signIn, strip } from './court'

let court: Court
test.beforeAll(async () => {
  court = await Court.start()
})
test.afterAll(() => court.stop())

test('a sitting from end to end: open, announce, admit, see and hear, mute, remove, promote, lock, adjourn', async ({
  browser,
}) => {
  const host = await person(browser, court)
  await nothingForAxe(host, 'sign-in')
  await signIn(host)
  await nothingForAxe(host, 'today')
  const link = await openNow(host, 'Reach reports', { camera: true })
  await nothingForAxe(host, 'bench, alone')

  const nia = await person(browser, court)
  await nia.goto(link)
  await nothingForAxe(nia, 'check')
  await announce(nia, link, '   ')
  await expect(nia.getByText('A name needs letters or digits.')).toBeVisible()
  await announce(nia, link, 'Nia Okafor', { camera: true, microphone: true })
  await expect(nia.getByRole('heading', { name: 'You are announced' })).toBeVisible()
  await nothingForAxe(nia, 'waiting')

  const guest = await person(browser, court)
  await announce(guest, link, 'Tablet 7')
  await expect(strip(host, 'Tablet 7')).toBeVisible()
  await strip(host, 'Tablet 7').locator('[data-strip]').click()
  await host.getByRole('button', { name: 'Decline 1' }).click()
  await host.getByLabel('Words they will read, if you like').fill('Please tell us your name.')
  await host.getByRole('button', { name: 'Decline', exact: true }).click()
  await expect(guest.getByRole('heading', { name: 'You were not admitted' })).toBeVisible()
  await expect(guest.getByText('Please tell us your name.')).toBeVisible()
  await nothingForAxe(guest, 'declined')

  await host.getByRole('button', { name: 'Admit Nia Okafor' }).click()
  await expect(nia.getByTestId('may')).toHaveText(/^You may listen, speak, show your camera, write to anybody/)

  await test.step('pictures and sound arrive both ways', async () => {
    await expect.poll(() => pictures(host, 'Nia Okafor'), { timeout: 30_000 }).toBeGreaterThan(20)
    await expect.poll(() => pictures(nia, 'Odalys Brandt'), { timeout: 30_000 }).toBeGreaterThan(20)
    await expect.poll(() => loudness(host), { timeout: 30_000 }).toBeGreaterThan(audible)
    await nothingForAxe(host, 'bench')
    await nothingForAxe(nia, 'seat')
    await host.getByRole('button', { name: 'Cam on' }).click()
  })

  await test.step('mute silences at the other side, take back brings the sound back', async () => {
    await aMoment(host)
    await host.getByRole('button', { name: /^Mute Nia Okafor/ }).click()
    await expect(nia.getByText('The bench has muted you.')).toBeVisible()
    await host.waitForTimeout(600)
    expect(await loudness(host)).toBe(0)
    await host.getByRole('button', { name: 'Take back: muting Nia Okafor' }).click()
    await expect.poll(() => loudness(host)).toBeGreaterThan(audible)
  })

  await test.step('asked to unmute, and answered', async () => {
    await nia.getByRole('button', { name: 'Mic on' }).click()
    await expect(nia.getByRole('button', { name: 'Mic off' })).toBeVisible()
    await host.getByRole('button', { name: 'Orders usual' }).click()
    await host.getByRole('radio', { name: 'Microphones: presenters' }).click()
    await host.keyboard.press('Escape')
    await expect(nia.getByTestId('may')).toContainText('The bench opens microphones')
    await nia.getByRole('button', { name: 'Mic by leave' }).click()
    await expect(nia.getByText('Microphones are by leave. Wait until the bench asks you to unmute.')).toBeVisible()
    await aMoment(host)
    await host.getByRole('button', { name: /^Ask to unmute Nia Okafor/ }).click()
    await nothingForAxe(nia, 'seat, asked')
    await nia.getByRole('button', { name: 'Open my microphone' }).click()
    await expect.poll(() => loudness(host)).toBeGreaterThan(audible)
  })

  await test.step('promoted, sent to the lobby, brought back', async () => {
    await strip(host, 'Nia Okafor').locator('[data-strip]').click()
    await host.keyboard.press('p')
    await host.getByRole('button', { name: 'Make presenter' }).click()
    await expect(nia.getByText('You are presenter now.')).toBeVisible()
    await host.keyboard.press('b')
    await expect(nia.getByRole('heading', { name: 'You are announced' })).toBeVisible()
    await host.keyboard.press('Control+z')
    await expect(nia.getByTestId('may')).toBeVisible()
  })

  await test.step('the server is killed and everybody gets the same seat, place, role and mute back', async () => {
    await nia.getByRole('button', { name: /Mic (on|off)/ }).click()
    await expect(nia.getByRole('button', { name: 'Mic on' })).toBeVisible()
    await court.killAndRestart()
    await expect(nia.getByTestId('may')).toBeVisible()
    await expect(host.getByRole('region', { name: 'Board' })).toBeVisible()
    await expect(strip(host, 'Nia Okafor')).toContainText('presenter', {
      timeout: 30_000,
    })
    const before = await pictures(host, 'Nia Okafor')
    await expect.poll(() => pictures(host, 'Nia Okafor'), { timeout: 30_000 }).toBeGreaterThan(before + 10)
    await expect.poll(() => loudness(host), { timeout: 30_000 }).toBeGreaterThan(audible)
    await nia.reload()
    await expect(nia.getByRole('button', { name: 'Mic on' })).toBeVisible()
    await expect(nia.getByText('you, presenter')).toBeVisible()
    await nia.getByRole('button', { name: 'Cam on' }).click()
  })

  await test.step('a late guest reads the words at the locked door', async () => {
    await host.keyboard.press('l')
    await host.getByLabel('What late people read').fill('We have begun. Ring the office.')
    await host.getByRole('button', { name: 'Lock the door' }).click()
    await expect(host.getByRole('button', { name: 'Door locked' })).toBeVisible()
    await host.keyboard.press('Escape')
    const late = await person(browser, court)
    await late.goto(link)
    await expect(late.getByRole('heading', { name: 'The door is locked' })).toBeVisible()
    await expect(late.getByText('We have begun. Ring the office.')).toBeVisible()
    await nothingForAxe(late, 'locked')
    await late.context().close()
  })

  await test.step('a second tab takes the seat, and can be sent back', async () => {
    const second = await nia.context().newPage()
    await second.goto(link)
    await expect(second.getByTestId('may')).toBeVisible()
    await expect(nia.getByRole('heading', { name: 'This seat is open elsewhere' })).toBeVisible()
    await nothingForAxe(nia, 'superseded')
    await nia.getByRole('button', { name: 'Use the seat here' }).click()
    await expect(nia.getByTestId('may')).toBeVisible()
    await second.close()
  })

  await test.step('removed', async () => {
    await host.keyboard.press('l')
    await host.getByRole('button', { name: 'Unlock the door' }).click()
    await host.keyboard.press('Escape')
    await guest.getByRole('button', { name: 'Back to the door' }).click()
    await guest.getByLabel('Your name, as others will see it').fill('Bo Lind')
    await guest.getByRole('button', { name: 'Announce me' }).click()
    await host.getByRole('button', { name: 'Admit Bo Lind' }).click()
    await expect(guest.getByTestId('may')).toBeVisible()
    await strip(host, 'Bo Lind').locator('[data-strip]').click()
    await host.keyboard.press('Delete')
    await host.getByRole('button', { name: 'Remove for good' }).click()
    await expect(guest.getByRole('heading', { name: 'You cannot come back' })).toBeVisible()
    await nothingForAxe(guest, 'removed')
    await guest.reload()
    await expect(guest.getByRole('heading', { name: 'You cannot come back' })).toBeVisible()
  })

  await test.step('handed over, and adjourned by the new host', async () => {
    await host.getByRole('button', { name: 'Open Nia Okafor' }).click()
    await host.getByRole('button', { name: 'Hand over' }).click()
    await host.getByRole('button', { name: 'Make Nia Okafor the host' }).click()
    await expect(nia.getByRole('region', { name: 'Board' })).toBeVisible()
    await expect(host.getByText('you, deputy')).toBeVisible()
    await expect(host.getByRole('button', { name: 'Adjourn…' })).toHaveCount(0)
    await nia.getByRole('button', { name: 'Adjourn…' }).click()
    await nia.getByRole('button', { name: 'Adjourn, cutting off 1 person' }).click()
    await expect(nia.getByRole('heading', { name: 'Adjourned' })).toBeVisible()
    await expect(host.getByRole('heading', { name: 'Adjourned' })).toBeVisible()
    await nothingForAxe(host, 'adjourned')
  })
})

test('a guest whose camera is refused reads why, and can enter all the same; the page is light', async ({ browser }) => {
  const host = await person(browser, court)
  await signIn(host)
  const link = await openNow(host, 'Without a camera')
  const guest = await person(browser, court)
  await guest.addInitScript(() => {
    const open = navigator.mediaDevices.getUserMedia.bind(navigator.mediaDevices)
    navigator.mediaDevices.getUserMedia = (wish) =>
      wish?.video ? Promise.reject(new DOMException('', 'NotAllowedError')) : open(wish)
  })
  await guest.goto(link)
  await expect(guest.getByText('The camera was refused.')).toBeVisible()
  const scripts = await guest.evaluate(() =>
    performance
      .getEntriesByType('resource')
      .filter(
        (entry): entry is PerformanceResourceTiming => entry instanceof PerformanceResourceTiming && entry.name.endsWith('.js'),
      )
      .reduce((sum, entry) => sum + entry.encodedBodySize, 0),
  )
  expect(scripts).toBeGreaterThan(50_000)
  expect(scripts).toBeLessThan(215_000)
  await nothingForAxe(guest, 'check, camera refused')
  await guest.getByLabel('Your name, as others will see it').fill('Bo Lind')
  await guest.getByRole('button', { name: 'Announce me' }).click()
  await host.getByRole('button', { name: 'Admit Bo Lind' }).click()
  await expect(guest.getByRole('button', { name: 'Cam off' })).toBeVisible()

  // Dark, at phone width, nothing is wrong either.
  await guest.setViewportSize({ width: 360, height: 740 })
  await guest.emulateMedia({ colorScheme: 'dark' })
  await nothingForAxe(guest, 'seat, phone, dark')
  await host.emulateMedia({ colorScheme: 'dark' })
  await nothingForAxe(host, 'bench, dark')
  expect(await guest.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(360)
})

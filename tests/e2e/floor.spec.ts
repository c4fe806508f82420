import { expect, test, type Page } from '@playwright/test'
import { announce, audible, type Visits, visitsWithHost, loudness, nothingForAxe, openNow, person, strip } from './court'

let court: Visits
let host: Page
let nia: Page
let jun: Page
test.beforeAll(async ({ browser }) => {
  ;[court, host] = await visitsWithHost(browser)
  const link = await openNow(host, 'The floor')
  nia = await person(browser, court)
  await announce(nia, link, 'Nia Okafor')
  jun = await person(browser, court)
  await announce(jun, link, 'Jun Takeda')
  await host.getByRole('button', { name: 'Select all who wait' }).click()
  await host.getByRole('button', { name: 'Admit 2' }).click()
  await expect(jun.getByTestId('may')).toBeVisible()
  await host.keyboard.press('Escape')
  await host.getByRole('button', { name: 'Orders usual' }).click()
  await host.getByRole('radio', { name: 'Microphones: presenters' }).click()
  await host.keyboard.press('Escape')
})
test.afterAll(() => court.stop())

const floor = () => host.getByRole('list', { name: 'Floor' })

test('hands, the floor by keys, the microphone opens and is heard, and giving it on silences', async () => {
  const height = () => host.getByRole('region', { name: 'Picture', exact: true }).evaluate((area) => area.clientHeight)
  const quiet = await height()
  await jun.keyboard.press('h')
  await expect(jun.getByRole('button', { name: 'Hand is up' })).toBeVisible()
  await nia.getByRole('button', { name: 'Ask for the floor' }).click()
  await expect(floor().getByRole('listitem')).toHaveText([/Jun Takeda/, /Nia Okafor/])
  await expect(host.getByText('2 hands')).toBeVisible()
  await nothingForAxe(host, 'hands on the board')

  await host.keyboard.press('f')
  await expect(jun.getByRole('heading', { name: 'You have the floor' })).toBeVisible()
  await expect(nia.getByText('Jun Takeda has the floor')).toBeVisible()
  expect(await height(), 'the picture stands still whoever has the floor').toBe(quiet)
  await jun.getByRole('button', { name: 'Open my microphone' }).click()
  await expect.poll(() => loudness(host), { timeout: 30_000 }).toBeGreaterThan(audible)

  await host.getByRole('button', { name: 'Give the floor to Nia Okafor' }).first().click()
  await expect(nia.getByRole('heading', { name: 'You have the floor' })).toBeVisible()
  await expect(jun.getByText('Your turn is over.')).toBeVisible()
  await expect(jun.getByRole('button', { name: 'Mic by leave' })).toBeVisible()

  await host.keyboard.press('Control+z')
  await expect(jun.getByRole('button', { name: 'Mic on' })).toBeVisible()
  await expect(strip(host, 'Nia Okafor')).toContainText('hand is up')
  await nothingForAxe(jun, 'a seat with the floor')
  await jun.getByRole('button', { name: 'Yield the floor' }).click()
  await expect(nia.getByText('Jun Takeda has the floor')).toBeHidden()
  await host.getByRole('button', { name: 'Give the floor to Nia Okafor' }).first().click()
  await expect(nia.getByRole('heading', { name: 'You have the floor' })).toBeVisible()
  await host.keyboard.press('F')
  await expect(nia.getByRole('heading', { name: 'You have the floor' })).toBeHidden()
  // The turn that was taken back a moment ago may still be told, too.
  await expect(nia.getByText('Your turn is over.').last()).toBeVisible()
})

test('a turn with a limit counts down, and ends by itself when the sheet says so', async () => {
  await host.getByRole('button', { name: /^Floor/ }).click()
  await host.getByLabel('Minutes for a turn').fill('0.2')
  await host.keyboard.press('Enter')
  await host.getByLabel('The floor is taken when the time is over').click()
  await expect(host.getByLabel('The floor is taken when the time is over')).toBeChecked()
  await nothingForAxe(host, 'floor panel')
  await host.keyboard.press('Escape')
  await nia.keyboard.press('h')
  await host.getByRole('button', { name: 'Give the floor to Nia Okafor' }).first().click()
  await expect(nia.getByText(/of 0:12/)).toBeVisible()
  await expect(nia.getByText(/of 0:12/)).toBeHidden({ timeout: 45_000 })
  await expect(nia.getByText('Your turn is over.').last()).toBeVisible()
  await host.getByRole('button', { name: 'Ledger' }).click()
  await expect(host.getByText('The turn of Nia Okafor was over')).toBeVisible()
})

import { expect, test, type Page } from '@playwright/test'
import { readFileSync } from 'node:fs'
import { announce, visitsWithHost, nothingForAxe, openNow, person, strip, type Visits } from './court'

// Questions to everybody: asked, answered, counted, shown.

test.describe.configure({ mode: 'serial' })

let court: Visits
let host: Page
let nia: Page
let ansel: Page
let link: string

test.beforeAll(async ({ browser }) => {
  ;[court, host] = await visitsWithHost(browser)
  link = await openNow(host, 'Flood season')
  nia = await person(browser, court)
  ansel = await person(browser, court)
  await announce(nia, link, 'Nia Okafor')
  await announce(ansel, link, 'Ansel Roope')
  await host.getByRole('button', { name: 'Select all who wait' }).click()
  await host.getByRole('button', { name: 'Admit 2' }).click()
  await expect(ansel.getByTestId('may')).toBeVisible()
})
test.afterAll(() => court.stop())

const card = (page: Page) => page.getByRole('region', { name: 'Your vote' })
const result = (page: Page) => page.getByRole('region', { name: 'Result' })
const side = () => host.getByRole('complementary', { name: 'Beside the picture' })

test('with the mouse: a named question is written, followed, closed and shown', async () => {
  await host.getByRole('button', { name: 'Polls', exact: true }).click()
  await side().getByRole('button', { name: 'New question' }).click()
  await side().getByLabel('Question').fill('Which should come first?')
  await side().getByLabel('Answer').selectOption({ label: 'One of several' })
  await side().getByRole('button', { name: 'Open it now' }).click()
  await expect(host.getByText('There must be at least two options to choose from')).toBeVisible()
  await side().getByLabel('Options, one a line').fill('The weir\nThe ford')
  await nothingForAxe(host, 'a question being written')
  await side().getByRole('button', { name: 'Open it now' }).click()
  await expect(card(nia)).toContainText('Named: the bench sees what you choose.')
  await nothingForAxe(nia, 'a question to answer')
  await card(nia).getByLabel('The ford').click()
  await card(nia).getByRole('button', { name: 'Vote', exact: true }).click()
  await expect(card(nia)).toContainText('You have voted: The ford')
  await expect(side()).toContainText('1 of 3 voted')
  await expect(side().getByRole('listitem', { name: 'The ford: 1, 100 %' })).toBeVisible()
  await expect(strip(host, 'Ansel Roope')).toContainText('has not voted')
  await expect(strip(host, 'Nia Okafor')).not.toContainText('has not voted')
  await card(nia).getByRole('button', { name: 'Change my vote' }).click()
  await card(nia).getByLabel('The weir').click()
  await card(nia).getByRole('button', { name: 'Vote so instead' }).click()
  await expect(side().getByRole('listitem', { name: 'The weir: 1, 100 %' })).toBeVisible()
  await card(host).getByRole('button', { name: 'Vote, too' }).click()
  await card(host).getByRole('button', { name: 'Abstain' }).click()
  await side().getByRole('button', { name: 'Close it' }).click()
  await expect(card(nia)).toBeHidden()
  await expect(result(nia), 'not before the bench shows it').toBeHidden()
  await side().getByRole('button', { name: 'Show the result to all' }).click()
  await expect(result(ansel)).toContainText('Most votes: The weir')
  await expect(result(ansel)).toContainText('2 of 3 voted · 1 abstained')
  await nothingForAxe(ansel, 'a result')
  await result(ansel).getByRole('button', { name: 'Put it aside' }).click()
  await expect(result(ansel)).toBeHidden()
  await side().getByRole('button', { name: 'Hide it again' }).click()
  await expect(result(nia)).toBeHidden()
  const saved = host.waitForEvent('download')
  await side().getByRole('link', { name: 'Save as CSV' }).click()
  expect(readFileSync(await (await saved).path(), 'utf8')).toContain('Which should come first?,one,named')
})

test('with keys and sentences alone: asked aloud, in secret, in an order of preference', async () => {
  await host.keyboard.press('y')
  await expect(card(nia)).toContainText('The question is spoken')
  await card(nia).getByLabel('Yes').focus()
  await nia.keyboard.press('Space')
  await card(nia).getByRole('button', { name: 'Vote', exact: true }).focus()
  await nia.keyboard.press('Enter')
  await expect(card(nia)).toContainText('You have voted: Yes')

  const say = async (line: string) => {
    await host.keyboard.press('Escape')
    await host.keyboard.press('/')
    await host.keyboard.type(line)
    await host.keyboard.press('Enter')
    await host.keyboard.press('Escape')
  }
  await say('close the poll')
  await expect(card(nia)).toBeHidden()
  await say('poll Shall the ford be closed? yes or no, 5 min, secret')
  await expect(card(nia)).toContainText('Secret: nobody can find out what you choose.')
  await expect(card(nia)).toContainText('left')
  for (const [page, answer] of [
    [nia, 'No'],
    [ansel, 'No'],
  ] as const) {
    await card(page).getByLabel(answer).focus()
    await page.keyboard.press('Space')
    await card(page).getByRole('button', { name: 'Vote', exact: true }).focus()
    await page.keyboard.press('Enter')
    await expect(card(page)).toContainText('You have voted. Your vote is in the box.')
  }
  await expect(side()).toContainText('2 of 3 voted')
  await expect(side(), 'nobody sees what is chosen').not.toContainText('No: 2')
  // The page loaded anew still knows that it may change it, and not what it was.
  await nia.reload()
  await expect(card(nia).getByRole('button', { name: 'Change my vote' })).toBeVisible()
  await card(nia).getByRole('button', { name: 'Change my vote' }).click()
  await expect(card(nia).getByLabel('No')).not.toBeChecked()
  await card(nia).getByLabel('Yes').click()
  await card(nia).getByRole('button', { name: 'Vote so instead' }).click()
  await expect(card(nia)).toContainText('Your vote is in the box.')
  // What cannot be found here cannot be changed elsewhere.
  await ansel.evaluate(() => localStorage.clear())
  await ansel.reload()
  await expect(card(ansel)).toContainText('You have voted from another browser.')
  await card(host).getByRole('button', { name: 'Vote, too' }).press('Enter')
  await card(host).getByRole('button', { name: 'Abstain' }).press('Enter')
  await expect(side()).toContainText('3 of 3 voted')
  await say('close the poll')
  await expect(side()).toContainText('A tie: Yes and No')
  await expect(side()).toContainText('Digest of the box')

  await say('poll Which first: order of the weir / the ford / the path')
  for (const [page, order] of [
    [nia, ['the path', 'the weir']],
    [ansel, ['the path']],
  ] as const) {
    for (const option of order)
      await card(page)
        .getByRole('button', { name: new RegExp(`^${option}`) })
        .press('Enter')
    await card(page).getByRole('button', { name: 'Vote', exact: true }).press('Enter')
    await expect(card(page)).toContainText('You have voted: 1. the path')
  }
  await say('close the poll')
  await say('show the result of poll 4')
  await expect(result(nia)).toContainText('Preferred: the path')
  await nothingForAxe(host, 'results on the bench')
})

test('a poll closes by itself, is called off, and is answered on a phone', async () => {
  await nia.setViewportSize({ width: 390, height: 844 })
  await host.keyboard.press('Escape')
  await host.keyboard.press('/')
  await host.keyboard.type('poll How well? scale 1 to 5, 10 s')
  await host.keyboard.press('Enter')
  await card(nia).getByRole('button', { name: '4' }).click()
  await card(nia).getByRole('button', { name: 'Vote', exact: true }).click()
  await expect(card(nia)).toContainText('You have voted: 4')
  await nothingForAxe(nia, 'a question on a phone')
  await expect(card(nia)).toBeHidden({ timeout: 20_000 })
  await expect(side()).toContainText('Mean 4, middle 4')
  await host.keyboard.press('Escape')
  await host.keyboard.press('y')
  await card(nia).getByRole('button', { name: 'Abstain' }).click()
  await side().getByRole('button', { name: 'Call it off' }).click()
  await host.getByRole('button', { name: 'Call the poll off' }).click()
  await expect(card(nia)).toBeHidden()
  await expect(
    side().getByRole('region', { name: 'Closed' }).getByRole('listitem').first(),
    'nothing is left of it',
  ).toContainText('How well?')

  await host.getByRole('button', { name: 'Adjourn…' }).click()
  await host.getByRole('button', { name: /^Adjourn, cutting off/ }).click()
  const saved = host.waitForEvent('download')
  await host.getByRole('link', { name: 'Save the results of the polls' }).click()
  expect(readFileSync(await (await saved).path(), 'utf8')).toContain('How well?,scale,named')
  await expect(ansel.getByRole('heading', { name: 'Adjourned' })).toBeVisible()
  await expect(ansel.getByRole('link', { name: 'Save the results of the polls' })).toBeHidden()
})

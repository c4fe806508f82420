import { expect, test, type Page } from '@playwright/test'
import { announce, visitsWithHost, nothingForAxe, openNow, person, type Visits } from './court'

// What is said, in words: written by people in turns, read as each reader likes.

test.describe.configure({ mode: 'serial' })

let court: Visits
let host: Page
let nia: Page
let ansel: Page

test.beforeAll(async ({ browser }) => {
  ;[court, host] = await visitsWithHost(browser)
  const link = await openNow(host, 'Flood season')
  nia = await person(browser, court)
  ansel = await person(browser, court)
  await announce(nia, link, 'Nia Okafor')
  await announce(ansel, link, 'Ansel Roope')
  await host.getByRole('button', { name: 'Select all who wait' }).click()
  await host.getByRole('button', { name: 'Admit 2' }).click()
  await expect(ansel.getByTestId('may')).toBeVisible()
})
test.afterAll(() => court.stop())

const desk = (page: Page) => page.getByRole('region', { name: 'Your captioner’s desk' })
const line = (page: Page) => desk(page).locator('textarea')
const words = (page: Page) => page.getByRole('log', { name: 'Captions' })

test('whom the bench names is led to the desk, and each reader reads as they like', async () => {
  await expect(ansel.getByRole('button', { name: 'Captions' }), 'nobody writes').toBeHidden()
  await host.getByRole('button', { name: 'Captions' }).click()
  await host.getByRole('button', { name: 'Change' }).click()
  await host.getByLabel('Captioner').selectOption({ label: 'Nia Okafor' })
  await host.getByRole('button', { name: 'Has them write' }).click()
  await expect(line(nia)).toBeFocused()
  await nothingForAxe(nia, 'the captioner’s desk')
  await expect(ansel.getByText('Captions can be read now. Key t shows them.')).toBeVisible()
  await ansel.keyboard.press('t')
  await expect(words(ansel)).toContainText('Nothing was written in the last seconds.')

  await nia.keyboard.press('Alt+1')
  await expect(desk(nia).getByRole('button', { name: /Odalys/ })).toHaveAttribute('aria-pressed', 'true')
  await line(nia).pressSequentially('Good morning, all. We begin')
  await expect(words(ansel)).toContainText('Odalys Brandt: Good morning, all.')
  await expect(words(ansel), 'a sentence that is not finished').not.toContainText('We begin')
  await nia.keyboard.press('Enter')
  await expect(words(ansel)).toContainText('We begin')
  await expect(line(nia)).toHaveValue('')

  await desk(nia).getByText('Short forms: 0').click()
  await desk(nia).getByLabel('Short', { exact: true }).fill('wc')
  await desk(nia).getByLabel('Written out').fill('water council')
  await desk(nia).getByRole('button', { name: 'Add' }).click()
  await line(nia).pressSequentially('The wc mets here. ')
  await expect(words(ansel)).toContainText('The water council mets here.')
  await line(nia).focus()
  await nia.keyboard.press('ArrowUp')
  await expect(line(nia)).toHaveValue('The water council mets here.')
  await line(nia).fill('The water council meets here.')
  await nia.keyboard.press('Enter')
  await expect(words(ansel)).toContainText('The water council meets here.')
  await expect(words(ansel)).not.toContainText('mets')

  await ansel.getByRole('button', { name: 'Captions' }).click()
  await ansel.getByLabel('Where').selectOption('over')
  await ansel.getByLabel('Size').selectOption('220')
  await expect(words(ansel)).toHaveCSS('font-size', '35.2px')
  await nothingForAxe(ansel, 'captions over the picture')
  await ansel.reload()
  await expect(ansel.getByRole('list', { name: 'What was said' })).toContainText('The water council meets here.')
  await ansel.keyboard.press('t')
  await expect(words(ansel)).toBeHidden()
})

test('captioners take turns, and the bench corrects and ends it', async () => {
  await host.getByLabel('Captioner').selectOption({ label: 'Ansel Roope' })
  await host.getByRole('button', { name: 'Has them write' }).click()
  await expect(desk(ansel)).toContainText('Nia Okafor writes now.')
  await ansel.getByRole('button', { name: 'I write now' }).click()
  await expect(line(ansel)).toBeFocused()
  await expect(desk(nia)).toContainText('Ansel Roope writes now.')
  await line(ansel).pressSequentially('And I go om. ')
  const list = host.getByRole('list', { name: 'What was said' })
  await list.getByRole('button', { name: 'And I go om.' }).click()
  await list.getByRole('textbox').fill('And I go on.')
  await host.keyboard.press('Enter')
  await expect(nia.getByRole('list', { name: 'What was said' })).toContainText('And I go on.')
  await host.getByRole('button', { name: 'Writes no more' }).first().click()
  await expect(nia.getByText('You do not write captions any more.')).toBeVisible()
  await expect(desk(nia)).toBeHidden()
})

test('in the demo the extras bring their words, and a machine writes them', async () => {
  test.setTimeout(120_000)
  await host.goto(court.url)
  await host.getByRole('button', { name: /^Open the session: Spring/ }).click()
  await host.getByRole('button', { name: 'Enter as host' }).click()
  await expect(host.getByRole('region', { name: 'Board' })).toBeVisible()
  await host.getByRole('combobox', { name: 'Command line' }).fill('captions by machine')
  await expect(host.getByText('captions by machine', { exact: false }).first()).toBeVisible()
  await host.keyboard.press('Enter')
  await expect(host.getByRole('list', { name: 'What was said' })).toContainText(/(gauge|alders|gravel|floor|point|minutes)/, {
    timeout: 60_000,
  })
})

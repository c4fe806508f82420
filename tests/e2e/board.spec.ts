import { expect, test, type Page } from '@playwright/test'
import { announce, choose, type Court, courtWithHost, nothingForAxe, openNow, person, strip } from './court'

let court: Court
let host: Page
test.beforeAll(async ({ browser }) => {
  ;[court, host] = await courtWithHost(browser, 48)
})
test.afterAll(() => court.stop())

const click = (page: Page, name: string | RegExp) => page.getByRole('button', { name }).first().click()
const tiles = (page: Page) => page.getByRole('region', { name: 'Picture', exact: true }).locator('figure')

test('each arranges the picture for oneself, and the bench for all', async ({ browser }) => {
  const link = await openNow(host, 'Pictures', { camera: true })
  const [nia, jun] = [await person(browser, court), await person(browser, court)]
  await announce(nia, link, 'Nia Okafor')
  await announce(jun, link, 'Jun Takeda')
  await expect(host.getByRole('button', { name: 'Select all who wait' })).toBeVisible()
  await click(host, 'Select all who wait')
  await click(host, 'Admit 2')
  await click(host, /^Clear$/)
  await expect(tiles(nia)).toHaveCount(3)
  await expect(tiles(jun)).toHaveCount(3)

  await test.step('even, without names, without those who show no picture; kept for this browser', async () => {
    const widths = async () => new Set(await tiles(nia).evaluateAll((all) => all.map((tile) => tile.clientWidth))).size
    expect(await widths()).toBe(2)
    await click(nia, 'Picture lead')
    await nia.getByRole('radio', { name: /^even/ }).click()
    await expect.poll(widths).toBe(1)
    await expect(tiles(nia).getByText('Odalys Brandt')).toBeVisible()
    await nia.getByLabel('Hide names').click()
    await expect(tiles(nia).getByText('Odalys Brandt')).toHaveCSS('width', '1px')
    await nia.getByLabel('Leave out people without a camera').click()
    await expect(tiles(nia)).toHaveCount(1)
    await nothingForAxe(nia, 'picture')
    await nia.keyboard.press('Escape')
    await expect(nia.getByText('2 people not shown')).toBeVisible()
    await nia.reload()
    await expect(tiles(nia)).toHaveCount(1)
    await expect(nia.getByRole('button', { name: 'Picture even' })).toBeVisible()
    await expect(tiles(jun)).toHaveCount(3)
  })

  await test.step('one’s own picture is mirrored for oneself alone', async () => {
    const turned = (page: Page) =>
      page.locator('[data-seat] :is(video, canvas)').evaluateAll((all) => all.map((one) => getComputedStyle(one).transform))
    await expect.poll(() => turned(host)).toEqual(['matrix(-1, 0, 0, 1, 0, 0)'])
    expect(await turned(jun)).toEqual(['none'])
  })

  await test.step('the picture fills the screen by a key, and gives it back', async () => {
    await jun.keyboard.press('x')
    await expect.poll(() => jun.evaluate(() => document.fullscreenElement !== null)).toBe(true)
    await jun.keyboard.press('x')
    await expect.poll(() => jun.evaluate(() => document.fullscreenElement)).toBeNull()
  })

  await test.step('set for all, nobody chooses; freed, everybody has what they chose before', async () => {
    await click(host, 'Picture lead')
    await host.getByRole('radio', { name: /^pair/ }).click()
    await host.getByLabel('For all: others cannot choose').click()
    await expect(nia.getByRole('button', { name: 'Picture pair, for all' })).toBeVisible()
    await click(nia, 'Picture pair, for all')
    await expect(nia.getByRole('dialog').getByText('The bench has set the picture for all: pair.')).toBeVisible()
    await expect(nia.getByRole('radio')).toHaveCount(0)
    await nia.keyboard.press('Escape')
    await host.getByLabel('For all: others cannot choose').click()
    await expect(nia.getByRole('button', { name: 'Picture even' })).toBeVisible()
    await expect(jun.getByRole('button', { name: 'Picture lead' })).toBeVisible()
    await host.keyboard.press('Escape')
  })

  await test.step('in front for all, and no longer', async () => {
    const first = async (page: Page) => tiles(page).first().textContent()
    await click(host, 'Open Jun Takeda')
    await click(host, 'In front for all')
    await host.keyboard.press('Escape')
    await expect.poll(() => first(nia)).toContain('Jun Takeda')
    await expect(tiles(nia)).toHaveCount(2)
    await click(host, /^Picture /)
    await expect(host.getByText('In front for all: Jun Takeda')).toBeVisible()
    await host.getByRole('button', { name: 'Clear the front' }).click()
    await expect(tiles(nia)).toHaveCount(1)
    await host.keyboard.press('Escape')
  })

  await test.step('states stand on the board until cleared; reactions are counted, and fade', async () => {
    await click(nia, 'Signal…')
    await click(nia, 'cannot hear')
    await expect(strip(host, 'Nia Okafor')).toContainText('cannot hear')
    await host.getByLabel('Whom to show').selectOption('states')
    await expect(host.locator('[data-bay=seated] [data-strip]')).toHaveText([/Nia Okafor/])
    await host.getByLabel('Whom to show').selectOption('all')
    await click(host, 'Clear “how it goes” of 1')
    await expect(nia.getByRole('button', { name: 'Signal…' })).toBeVisible()

    for (const page of [nia, jun]) await click(page, 'Signal…')
    const shown = host.getByRole('list', { name: 'Reactions' })
    for (const page of [nia, jun]) await click(page, 'Agreed')
    await expect(shown).toHaveText('Agreed Nia Okafor and Jun Takeda')
    await expect(shown.getByRole('listitem')).toHaveCount(0)
    await host.getByRole('button', { name: 'Settings' }).click()
    await host.getByRole('tab', { name: 'Notifications' }).click()
    await host.getByLabel('Show reactions over the picture').click()
    await host.keyboard.press('Escape')
    await click(jun, 'Thanks')
    await expect(nia.getByRole('list', { name: 'Reactions' })).toContainText('Thanks Jun Takeda')
    await expect(shown).toHaveCount(0)
  })
})

test('sixty people on the board: found, filtered, and selected by keys and mouse, drawn only where they are seen', async ({
  browser,
}) => {
  await host.goto(court.url)
  await host.getByRole('button', { name: /^Open the session: Spring Wardens/ }).click()
  await choose(host, {})
  await host.getByRole('button', { name: 'Enter as host' }).click()
  const seated = host.locator('[data-bay=seated] [data-strip]')
  const heading = host.getByRole('heading', { name: /^Seated/ })
  await expect(heading).toHaveText(/Seated (5|6)\d/, { timeout: 90_000 })
  await test.step('all have come in', async () => {
    const now = () => heading.textContent()
    const stays = async () => {
      const before = await now()
      await host.waitForTimeout(2000)
      return before === (await now())
    }
    await expect.poll(stays).toBe(true)
  })
  const count = Number((await heading.textContent())!.replace(/\D/g, ''))
  expect(await seated.count()).toBeLessThan(count / 2 + 10)

  await seated.first().click()
  await host.keyboard.press('Shift+End')
  // Some may raise their hands meanwhile, and stand on the floor then.
  await expect(host.getByRole('button', { name: /^Send (4[5-9]|5\d|6\d) to lobby/ })).toBeVisible()
  const last = await host.evaluate(() => document.activeElement?.textContent)
  await expect(seated.last()).toBeInViewport()
  await expect(seated.last()).toHaveText(last!)
  await host.keyboard.press('Escape')
  await host.keyboard.press('Home')
  await host.keyboard.press('PageDown')
  await host.keyboard.press('Shift+ArrowUp')
  await expect(host.getByRole('button', { name: 'Send 2 to lobby' })).toBeVisible()
  await host.keyboard.press('Escape')

  await seated.nth(1).click()
  await seated.nth(4).click({ modifiers: ['Shift'] })
  await seated.nth(2).click({ modifiers: ['Control'] })
  await expect(host.getByRole('button', { name: 'Send 3 to lobby' })).toBeVisible()
  await click(host, 'Clear')

  await host.keyboard.press('s')
  await host.keyboard.type('mirembe')
  await expect(seated).toHaveText([/Mirembe Achan/])
  await host.keyboard.press('Enter')
  await expect(seated.first()).toBeFocused()
  await host.keyboard.press('s')
  await expect(host.getByLabel('Find a name')).toBeFocused()
  await host.keyboard.press('Escape')
  await expect(host.getByLabel('Find a name')).toHaveValue('')
  await host.keyboard.press('Escape')
  await expect(host.getByLabel('Find a name')).not.toBeFocused()
  await host.getByLabel('Whom to show').selectOption('presenters')
  await expect(seated).toHaveText([/Teodor Quill/])
  await host.getByLabel('Whom to show').selectOption('bench')
  await expect(seated).toHaveText([/Ilse Vantorre/])
  await nothingForAxe(host, 'board, filtered')
  await host.getByLabel('Whom to show').selectOption('all')

  await test.step('a bay that appears leaves the board where it stands', async () => {
    const lobby = host.getByRole('heading', { name: /^Lobby/ })
    await expect(lobby).not.toHaveText('Lobby 0')
    // Some may still be on their way to the lobby while everybody is being admitted.
    await expect(async () => {
      await host.keyboard.press('/')
      await host.keyboard.type('admit everyone')
      await host.keyboard.press('Enter')
      await expect(lobby).toHaveText('Lobby 0', { timeout: 3000 })
    }).toPass({ timeout: 40_000 })
    await seated.first().focus()
    await host.keyboard.press('End')
    await expect(seated.last()).toBeInViewport()
    const board = host.locator('[data-bay=seated]').locator('..')
    const before = await board.evaluate((all) => all.scrollTop)
    await announce(await person(browser, court), host.url(), 'Late Guest')
    await expect(lobby).not.toHaveText('Lobby 0')
    expect(await board.evaluate((all) => all.scrollTop)).toBeGreaterThan(before / 2)
  })
})

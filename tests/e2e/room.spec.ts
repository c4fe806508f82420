import { expect, test, type Page } from '@playwright/test'
import { announce, type Visits, visitsWithHost, nothingForAxe, openNow, person } from './court'

test.describe.configure({ mode: 'serial' })

let court: Visits
let host: Page
let link: string
let nia: Page
test.beforeAll(async ({ browser }) => {
  ;[court, host] = await visitsWithHost(browser)
  await host.goto(court.url)
})
test.afterAll(() => court.stop())

/** Where the focus stands: on something, in sight, and under nothing else. */
const focus = (page: Page) =>
  page.evaluate(() => {
    const at = document.activeElement
    if (!at || at === document.body) return { tag: 'BODY', covered: false, text: '' }
    const box = at.getBoundingClientRect()
    const [x, y] = [box.left + Math.min(box.width, innerWidth) / 2, box.top + box.height / 2]
    const top = document.elementFromPoint(x, y)
    const isSmall = box.width <= 1 || box.height <= 1
    return {
      tag: at.tagName,
      covered: !isSmall && top !== null && !at.contains(top) && !top.contains(at),
      text: at.textContent,
    }
  })

/** Buttons, links and boxes smaller than 24 pixels either way, those within a line of words left out. */
const small = (page: Page) =>
  page.evaluate(() =>
    [...document.querySelectorAll<HTMLElement>('button, a[href], input, select')]
      .filter((one) => one.checkVisibility() && !one.closest('.sr-only') && !one.className.toString().includes('sr-only'))
      .map((one) => ({ one, box: one.getBoundingClientRect() }))
      .filter(
        ({ one, box }) => box.width > 0 && (box.width < 24 || box.height < 24) && !(one.tagName === 'A' && one.closest('p')),
      )
      // What a label is bound to is pressed by it, too.
      .filter(({ one }) => !(one instanceof HTMLInputElement && one.labels?.length))
      .map(
        ({ one, box }) =>
          `${one.tagName} ${one.textContent?.slice(0, 30) || one.getAttribute('aria-label')} ${box.width}x${box.height}`,
      ),
  )

const hasFocusOnHeading = async (page: Page, name: string | RegExp) => {
  await expect(page.getByRole('heading', { level: 1, name })).toBeFocused()
}

test('after each change of screen the focus stands on its heading, and the tab says where one is', async ({ browser }) => {
  await expect(host).toHaveTitle('Today · Hold Court')
  expect(await small(host)).toEqual([])
  await host.keyboard.press('Tab')
  await host.keyboard.press('Shift+Tab')
  link = await openNow(host, 'Room enough')
  await hasFocusOnHeading(host, 'Room enough')
  await expect(host).toHaveTitle('Room enough · Hold Court')
  await host.keyboard.press('Tab')
  await expect(host.getByRole('link', { name: 'Skip to the board' })).toBeFocused()
  await host.keyboard.press('Enter')
  await expect(host.getByRole('region', { name: 'Board' })).toBeFocused()

  nia = await person(browser, court)
  await announce(nia, link, 'Nia Okafor')
  await hasFocusOnHeading(nia, 'You are announced')
  expect(await small(nia)).toEqual([])
  await host.getByRole('button', { name: 'Admit Nia Okafor' }).click()
  await hasFocusOnHeading(nia, 'Room enough')
  await expect(host.locator('[data-strip]', { hasText: 'Nia Okafor' }), 'the focus goes with the strip').toBeFocused()
  await expect(nia.getByTestId('may')).toBeVisible()
  expect(await small(host)).toEqual([])
  expect(await small(nia)).toEqual([])
})

test('the picture is widened by one key, and the rails still show who waits and what is new', async ({ browser }) => {
  const picture = () => host.getByRole('region', { name: 'Picture', exact: true }).evaluate((area) => area.clientWidth)
  expect(await picture()).toBeLessThan(800)
  await host.keyboard.press('w')
  await expect(host.getByRole('navigation', { name: 'People in short' })).toBeVisible()
  await expect(host.getByRole('region', { name: 'Board' })).toBeHidden()
  const large = host.locator('[data-seat]').first()
  await expect.poll(picture).toBeGreaterThan(1_000)
  expect((await large.boundingBox())!.width).toBeGreaterThanOrEqual(800)
  await nothingForAxe(host, 'widened')

  const jun = await person(browser, court)
  await announce(jun, link, 'Jun Takeda')
  await expect(
    host.getByRole('button', {
      name: 'Open the board over the picture: Lobby, 1',
    }),
  ).toBeVisible()
  await nia.getByRole('button', { name: 'Ask for the floor' }).click()
  await expect(
    host.getByRole('button', {
      name: 'Open the board over the picture: Floor, 1',
    }),
  ).toBeVisible()
  await nia.keyboard.press('c')
  await nia.keyboard.type('Is there room?')
  await nia.keyboard.press('Enter')
  await expect(host.getByRole('complementary').getByRole('button', { name: /^Chat 1/ })).toBeVisible()
  // Own switches are at hand.
  await expect(host.getByRole('button', { name: /^Mic o/ })).toBeVisible()

  // Keys lead to the board, which lies over the picture and takes no room from it.
  await host.keyboard.press('g')
  await host.keyboard.press('l')
  await expect(host.locator('[data-strip]', { hasText: 'Jun Takeda' })).toBeFocused()
  expect(await picture()).toBeGreaterThan(1_000)
  await nothingForAxe(host, 'board over the picture')
  await host.keyboard.press('a')
  await expect(jun.getByTestId('may')).toBeVisible()
  await host.keyboard.press('Escape')
  await expect(host.getByRole('region', { name: 'Board' })).toBeHidden()

  // It stays so when the page comes again, until the key is pressed again.
  await host.reload()
  await expect(host.getByRole('navigation', { name: 'People in short' })).toBeVisible()
  await host.getByRole('button', { name: 'Show the board beside the picture' }).click()
  await expect(host.getByRole('region', { name: 'Board' })).toBeVisible()
  expect(await picture()).toBeLessThan(800)
})

for (const language of ['en', 'pl'])
  test(`the ribbon has room for two sentences more, in ${language}`, async () => {
    await host.evaluate((chosen) => localStorage.setItem('language', chosen), language)
    await host.reload()
    const title = host.getByRole('banner').getByRole('button').first()
    await expect(title).toBeVisible()
    const room = await host.getByRole('banner').evaluate((ribbon) => {
      const parts = [...ribbon.children].map((part) => ({
        width: part.getBoundingClientRect().width,
        tag: part.tagName,
      }))
      // The title gives way down to this.
      return {
        free: parts.find((part) => part.tag === 'SPAN')!.width + parts.find((part) => part.tag === 'BUTTON')!.width - 160,
        scrolls: ribbon.scrollWidth > ribbon.clientWidth,
      }
    })
    expect(room.scrolls).toBe(false)
    expect(room.free).toBeGreaterThan(2 * 85)
  })

test('what is unusual stands in the ribbon by itself, and leaving is apart from adjourning, which asks first', async () => {
  await host.evaluate(() => localStorage.setItem('language', 'en'))
  await host.reload()
  await host.getByRole('button', { name: 'Orders usual' }).click()
  await host.getByRole('radio', { name: 'Cameras: bench' }).click()
  await host.getByRole('radio', { name: 'Microphones: presenters' }).click()
  await host.keyboard.press('Escape')
  await expect(
    host.getByRole('button', {
      name: 'Orders microphones: by leave and cameras: bench only',
    }),
  ).toBeVisible()
  await expect(host.getByRole('button', { name: 'Leave…' })).toBeVisible()
  await host.getByRole('button', { name: 'Adjourn…' }).click()
  await expect(host.getByRole('dialog').getByRole('button', { name: 'Cancel' })).toBeFocused()
  await host.keyboard.press('Enter')
  await expect(host.getByRole('dialog')).toHaveCount(0)
  await expect(nia.getByTestId('may')).toBeVisible()
})

test('on a phone a few people are large, the others come by paging, and nothing covers what has the focus', async () => {
  await host.setViewportSize({ width: 360, height: 740 })
  await nia.setViewportSize({ width: 360, height: 740 })
  for (const page of [host, nia]) {
    expect(await page.evaluate(() => document.documentElement.scrollWidth - innerWidth)).toBeLessThanOrEqual(0)
    for (const word of await page.getByRole('banner').getByRole('button').all())
      expect(await word.evaluate((one) => one.scrollWidth <= one.clientWidth + 1), 'its words are whole').toBe(true)
    const switches = page.getByRole('region', { name: 'My strip' }).getByRole('button')
    const tops = await switches.evaluateAll((all) => all.slice(1).map((one) => Math.round(one.getBoundingClientRect().top)))
    expect(new Set(tops).size, 'own switches stand in one row').toBe(1)
  }
  for (let n = 0; n < 40; n++) {
    await nia.keyboard.press('Tab')
    const { tag, covered, text } = await focus(nia)
    if (tag === 'BODY') break
    expect(covered, `${tag} ${text}`).toBe(false)
  }
  await nothingForAxe(nia, 'seat on a phone')
  await host.setViewportSize({ width: 1280, height: 800 })
  await nia.setViewportSize({ width: 1280, height: 800 })
})

test('after adjourning everybody reads it under a heading that has the focus', async () => {
  await host.getByRole('button', { name: 'Adjourn…' }).click()
  await host.getByRole('button', { name: /^Adjourn, cutting off/ }).click()
  for (const page of [host, nia]) {
    await hasFocusOnHeading(page, 'Adjourned')
    await expect(page).toHaveTitle('Adjourned · Hold Court')
    expect(await small(page)).toEqual([])
  }
})

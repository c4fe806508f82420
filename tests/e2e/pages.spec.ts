import { expect, test, type Page } from '@playwright/test'
import { readFileSync } from 'node:fs'
import { announce, visitsWithHost, nothingForAxe, openNow, person, strip, type Visits } from './court'

// Documents, sheets and marks, with pages of one colour each, so that what is seen can be told from the pixels.

let court: Visits
let host: Page
let teodor: Page
let nia: Page

const colours = { red: [200, 30, 30], green: [30, 160, 60], blue: [40, 60, 200] } as const
type Colour = keyof typeof colours

const exhibit = (page: Page) => page.locator('[data-exhibit]')
const colourOf = async (page: Page): Promise<Colour | 'other'> => {
  const [r, g, b] = await exhibit(page)
    .locator('canvas')
    .first()
    .evaluate((canvas: HTMLCanvasElement) => {
      const small = new OffscreenCanvas(1, 1).getContext('2d')!
      if (canvas.width > 0) small.drawImage(canvas, canvas.width / 2, canvas.height / 2, 1, 1, 0, 0, 1, 1)
      return [...small.getImageData(0, 0, 1, 1).data]
    })
  const near = Object.entries(colours).find(([, rgb]) => [r, g, b].every((value, i) => Math.abs(value! - rgb[i]!) < 25))
  return (near?.[0] as Colour | undefined) ?? 'other'
}

/** How many pixels of its marks have a colour, on the canvas of what is finished or of what is being drawn. */
const painted = (page: Page, which: 'finished' | 'drawn', rgb: readonly number[]) =>
  exhibit(page)
    .locator('canvas')
    .nth(which === 'finished' ? 1 : 2)
    .evaluate((canvas: HTMLCanvasElement, [r, g, b]) => {
      const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height)
      let count = 0
      for (let at = 0; at < data.length; at += 4)
        if (data[at + 3]! > 200 && Math.abs(data[at]! - r!) + Math.abs(data[at + 1]! - g!) + Math.abs(data[at + 2]! - b!) < 30)
          count++
      return count
    }, rgb)

const vermilion = [0xd5, 0x5e, 0x00]
const blue = [0x00, 0x72, 0xb2]

const drag = async (page: Page, points: readonly (readonly [number, number])[], release = true) => {
  const box = (await exhibit(page).locator('[data-marks]').boundingBox())!
  const at = ([x, y]: readonly [number, number]) => [box.x + x * box.width, box.y + y * box.height] as const
  await page.mouse.move(...at(points[0]!))
  await page.mouse.down()
  for (const point of points.slice(1)) await page.mouse.move(...at(point), { steps: 10 })
  if (release) await page.mouse.up()
}

const marks = (page: Page) => exhibit(page).locator('[data-marks]').getAttribute('data-marks')

test.beforeAll(async ({ browser }) => {
  ;[court, host] = await visitsWithHost(browser)
  const link = await openNow(host, 'Pages')
  teodor = await person(browser, court)
  await announce(teodor, link, 'Teodor Quill')
  nia = await person(browser, court)
  await announce(nia, link, 'Nia Okafor')
  await host.getByRole('button', { name: 'Select all who wait' }).click()
  await host.getByRole('button', { name: 'Admit 2' }).click()
  await expect(nia.getByTestId('may')).toBeVisible()
  await host.keyboard.press('Escape')
  await strip(host, 'Teodor Quill').click()
  await host.getByRole('button', { name: 'Role…' }).click()
  await host.getByRole('button', { name: 'Make presenter' }).click()
  await host.keyboard.press('Escape')
})
test.afterAll(() => court.stop())

test('a document is opened unseen, shown, and its pages are turned for all by one person', async ({ browser }) => {
  const press = await (await browser.newContext()).newPage()
  await press.setContent(
    '<style>@page{size:1280px 720px;margin:0}body{margin:0}section{height:720px;break-after:page}p{margin:0;padding:40px}</style>' +
      Object.entries(colours)
        .map(([name, rgb]) => `<section style="background:rgb(${rgb.join()})"><p>The ${name} page</p></section>`)
        .join(''),
  )
  const pdf = await press.pdf({ printBackground: true, preferCSSPageSize: true, pageRanges: '1-3' })
  await press.close()
  await teodor.getByRole('button', { name: /^Shown/ }).click()
  await teodor.locator('input[type=file]').setInputFiles({ name: 'Reach map.pdf', mimeType: 'application/pdf', buffer: pdf })
  await expect(teodor.getByText('not shown · 3 pages')).toBeVisible({ timeout: 30_000 })
  await nothingForAxe(teodor, 'the shelf with a document')
  await expect(exhibit(nia)).toHaveCount(0)
  await teodor.getByRole('button', { name: 'Show to all: A Reach map' }).click()
  await expect.poll(() => colourOf(nia), { timeout: 20_000 }).toBe('red')
  await expect(exhibit(nia).getByText('The red page')).toBeAttached()
  await expect(exhibit(nia).getByRole('button', { name: 'Next page' })).toBeHidden()

  await teodor.keyboard.press('Escape')
  await exhibit(teodor).getByRole('button', { name: 'Next page' }).click()
  await expect.poll(() => colourOf(nia)).toBe('green')
  await expect.poll(() => colourOf(host)).toBe('green')
  await expect(exhibit(nia).getByText('The green page')).toBeAttached()
  // By keys, too; and each may look closer alone.
  await exhibit(teodor).getByRole('region').focus()
  await teodor.keyboard.press('End')
  await expect.poll(() => colourOf(nia)).toBe('blue')
  await exhibit(nia).getByRole('button', { name: 'Look closer, for me alone' }).click()
  await expect(exhibit(nia).getByText('150 %')).toBeVisible()
  await expect(exhibit(host).getByText('150 %')).toHaveCount(0)
  await exhibit(nia).getByRole('button', { name: 'Back to what all see' }).click()
  await exhibit(teodor).getByRole('button', { name: 'Look closer, for all' }).click()
  await expect(exhibit(host).getByText('150 %')).toBeVisible()

  // Handed to somebody, taken by the bench, and given back by taking that back.
  await teodor.getByRole('button', { name: /^Shown/ }).click()
  await teodor.getByLabel('Paging with').selectOption({ label: 'Nia Okafor' })
  await expect(nia.getByText('You turn the pages now.')).toBeVisible()
  await expect(exhibit(teodor).getByRole('button', { name: 'Next page', exact: true })).toBeHidden()
  await exhibit(nia).getByRole('textbox', { name: 'Page', exact: true }).fill('1')
  await nia.keyboard.press('Enter')
  await expect.poll(() => colourOf(host)).toBe('red')
  await exhibit(host).getByRole('button', { name: 'Take the paging' }).click()
  await expect(nia.getByText('You do not turn the pages any more.')).toBeVisible()
  await exhibit(host).getByRole('button', { name: 'Next page' }).click()
  await expect.poll(() => colourOf(nia)).toBe('green')
  // Alone, where that is allowed, and back.
  await host.keyboard.press('/')
  await host.keyboard.type('free look')
  await host.keyboard.press('Enter')
  await exhibit(nia).getByRole('button', { name: 'Next page, for me alone' }).click()
  await expect.poll(() => colourOf(nia)).toBe('blue')
  expect(await colourOf(teodor)).toBe('green')
  await nothingForAxe(nia, 'a page looked at alone')
  await exhibit(nia).getByRole('button', { name: 'All are on 2: go there' }).click()
  await expect.poll(() => colourOf(nia)).toBe('green')
  // All pages stand in a line, small, for whoever may look ahead.
  await exhibit(nia).getByRole('button', { name: 'All pages' }).click()
  await expect(exhibit(nia).locator('[data-small] img')).toHaveCount(3)
  await exhibit(nia).getByRole('button', { name: 'Page 3', exact: true }).click()
  await expect.poll(() => colourOf(nia)).toBe('blue')
  await nothingForAxe(nia, 'all pages in a line')
  await exhibit(nia).getByRole('button', { name: 'Page 2, which all see' }).click()
  await expect.poll(() => colourOf(nia)).toBe('green')
  await exhibit(nia).getByRole('button', { name: 'All pages' }).click()

  // Widened, it has the room that it needs; who speaks may be large beside it, for oneself or, set by the bench, for all.
  const width = async (page: Page) => (await exhibit(page).boundingBox())!.width
  const area = async (page: Page) => (await width(page)) * (await exhibit(page).boundingBox())!.height
  const usual = await area(nia)
  await nia.getByRole('button', { name: 'Picture exhibit' }).click()
  await nia.getByRole('radio', { name: /^even/ }).click()
  await nia.keyboard.press('Escape')
  await expect.poll(() => area(nia)).toBeLessThan(usual * 0.7)
  await host.keyboard.press('/')
  await host.keyboard.type('picture exhibit')
  await host.keyboard.press('Enter')
  await expect.poll(() => area(nia)).toBe(usual)
  await host.keyboard.press('Escape')
  await host.getByRole('button', { name: 'Widen the picture' }).click()
  await expect.poll(() => width(host)).toBeGreaterThanOrEqual(800)
  await host.keyboard.press('w')
})

test('two people draw over a page; each undoes their own, and what is saved has the marks', async () => {
  await exhibit(teodor).getByRole('button', { name: 'Draw', exact: true }).click()
  await expect(exhibit(nia).getByRole('button', { name: 'Draw', exact: true })).toHaveCount(0)
  await expect(exhibit(teodor).getByRole('toolbar')).toBeVisible()
  await drag(
    teodor,
    [
      [0.4, 0.5],
      [0.6, 0.5],
    ],
    false,
  )
  // While it is being drawn the others see it.
  await expect.poll(() => painted(nia, 'drawn', vermilion)).toBeGreaterThan(50)
  expect(await painted(nia, 'finished', vermilion)).toBe(0)
  await teodor.mouse.up()
  await expect.poll(() => painted(nia, 'finished', vermilion)).toBeGreaterThan(50)
  await expect.poll(() => painted(nia, 'drawn', vermilion)).toBe(0)
  await nothingForAxe(teodor, 'drawing')

  await host.keyboard.press('Escape')
  await host.keyboard.press('/')
  await host.keyboard.type('marks for everyone')
  await host.keyboard.press('Enter')
  await exhibit(nia).getByRole('button', { name: 'Draw', exact: true }).click()
  await exhibit(nia).getByRole('button', { name: 'Box' }).click()
  await exhibit(nia).getByRole('radio', { name: 'blue' }).click()
  await drag(nia, [
    [0.6, 0.2],
    [0.8, 0.5],
  ])
  await expect.poll(() => painted(host, 'finished', blue)).toBeGreaterThan(50)
  await exhibit(nia).getByRole('button', { name: 'Text', exact: true }).click()
  await drag(nia, [[0.3, 0.7]])
  await nia.keyboard.type('Mend this first')
  await nia.keyboard.press('Enter')
  await expect.poll(() => marks(host)).toBe('3')
  // Whose it is can be read.
  const box = (await exhibit(host).locator('[data-marks]').boundingBox())!
  await host.mouse.move(box.x + box.width * 0.5, box.y + box.height * 0.5)
  await expect(host.getByText('Drawn by Teodor Quill')).toBeVisible()
  await exhibit(nia).getByRole('button', { name: 'Undo' }).click()
  await expect.poll(() => marks(host)).toBe('2')
  await exhibit(nia).getByRole('button', { name: 'Undo' }).click()
  await expect.poll(() => painted(host, 'finished', blue)).toBe(0)
  expect(await painted(host, 'finished', vermilion)).toBeGreaterThan(50)
  await exhibit(nia).getByRole('button', { name: 'Redo' }).click()
  await expect.poll(() => painted(teodor, 'finished', blue)).toBeGreaterThan(50)

  await exhibit(teodor).getByRole('button', { name: 'Save…' }).click()
  const [saved] = await Promise.all([
    teodor.waitForEvent('download'),
    teodor.getByRole('button', { name: 'This page as a picture (PNG)' }).click(),
  ])
  expect(saved.suggestedFilename()).toBe('A Reach map 2.png')
  const seen = await teodor.evaluate(
    async ([png, rgb]) => {
      const bytes = Uint8Array.from(atob(png as string), (letter) => letter.charCodeAt(0))
      const picture = await createImageBitmap(new Blob([bytes], { type: 'image/png' }))
      const canvas = new OffscreenCanvas(picture.width, picture.height)
      const context = canvas.getContext('2d')!
      context.drawImage(picture, 0, 0)
      const { data } = context.getImageData(0, 0, picture.width, picture.height)
      let count = 0
      for (let at = 0; at < data.length; at += 4)
        if (Math.abs(data[at]! - (rgb as number[])[0]!) + Math.abs(data[at + 1]! - (rgb as number[])[1]!) < 12) count++
      return [picture.width, picture.height, count]
    },
    [readFileSync(await saved.path()).toString('base64'), vermilion] as const,
  )
  expect(seen.slice(0, 2)).toEqual([1600, 900])
  expect(seen[2]).toBeGreaterThan(500)

  // Marks belong to their page, and a page that is loaded anew has them.
  await exhibit(host).getByRole('button', { name: 'Page before' }).click()
  await expect.poll(() => marks(nia)).toBe('0')
  await exhibit(host).getByRole('button', { name: 'Next page' }).click()
  await nia.reload()
  await expect.poll(() => marks(nia), { timeout: 20_000 }).toBe('2')
})

test('somebody who may not asks to show a sheet, and may once', async () => {
  await nia.getByRole('button', { name: 'Signal…' }).click()
  await nia.getByRole('button', { name: 'Ask to show' }).click()
  await nia.keyboard.press('Escape')
  await host.keyboard.press('Escape')
  await expect(host.getByRole('button', { name: 'Shown Nia Okafor asks to show' })).toBeVisible()
  await nothingForAxe(host, 'somebody asks to show')
  await host.getByRole('button', { name: 'Let Nia Okafor show something once' }).click()
  await expect(nia.getByText('You may show something now.')).toBeVisible()
  await nia.getByRole('button', { name: /^Shown/ }).click()
  await nia.getByLabel('What is printed on the sheet').selectOption('squared')
  await nia.getByRole('button', { name: 'Open a sheet' }).click()
  await nia.getByRole('button', { name: /^Show to all: B/ }).click()
  await expect(exhibit(host)).toHaveAttribute('data-exhibit', 'B')
  await nia.keyboard.press('Escape')
  await exhibit(nia).getByRole('button', { name: 'Add a page' }).click()
  await expect(exhibit(host)).toHaveAttribute('data-page', '2')
  await nia.getByRole('button', { name: /^Shown/ }).click()
  await nia.getByRole('button', { name: 'Take down B of Nia Okafor' }).click()
  await expect(exhibit(host)).toHaveCount(0)
  await nia.keyboard.press('Escape')
  await expect(nia.getByRole('button', { name: /^Shown/ })).toBeHidden()
})

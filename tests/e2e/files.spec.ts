import { readFileSync } from 'node:fs'
import { expect, test, type Page } from '@playwright/test'
import { announce, visitsWithHost, nothingForAxe, openNow, person, type Visits } from './court'

// Files that are handed out: sent and fetched over connections that break, taken or not, printed, kept.

let court: Visits
let host: Page
let nia: Page
let teodor: Page

/** Every byte in its place can be told: it is counted through. */
const counted = (size: number) => {
  const bytes = Buffer.alloc(size)
  for (let at = 0; at + 4 <= size; at += 4) bytes.writeUInt32LE(at, at)
  bytes.write('%PDF-1.7\n')
  return bytes
}

test.beforeAll(async ({ browser }) => {
  ;[court, host] = await visitsWithHost(browser)
  const link = await openNow(host, 'Files')
  nia = await person(browser, court)
  // What would go to the printer is counted instead, in whatever frame.
  await nia.addInitScript(() => {
    window.print = () => {
      const pages = [...document.images].map((image) => image.naturalWidth)
      Object.assign(window.top!, { printed: pages })
    }
  })
  await announce(nia, link, 'Nia Okafor')
  teodor = await person(browser, court)
  await announce(teodor, link, 'Teodor Quill')
  await host.getByRole('button', { name: 'Select all who wait' }).click()
  await host.getByRole('button', { name: 'Admit 2' }).click()
  await expect(nia.getByTestId('may')).toBeVisible()
  await host.keyboard.press('Escape')
})
test.afterAll(() => court.stop())

const chooses = (page: Page, name: string, buffer: Buffer, mimeType = 'application/pdf') =>
  page.getByRole('region', { name: 'Hand out a file' }).locator('input[type=file]').setInputFiles({ name, mimeType, buffer })

test('a file is sent and fetched over connections that break, and not a byte is lost', async () => {
  const file = counted(9_000_000)
  await host.getByRole('button', { name: 'Files', exact: true }).click()
  await expect(host.getByText('No file has been handed out.')).toBeVisible()
  // The second piece breaks off twice on its way.
  let broken = 0
  await host.route('**/files/*', async (route) => {
    if (route.request().method() === 'PATCH' && Number(route.request().headers()['upload-offset']) > 0 && broken++ < 2)
      return route.abort('connectionreset')
    return route.continue()
  })
  await chooses(host, 'Reach map.pdf', file)
  await expect(nia.getByRole('heading', { name: 'Odalys Brandt hands out Reach map.pdf' })).toBeVisible({ timeout: 30_000 })
  expect(broken).toBeGreaterThanOrEqual(2)
  await expect(nia.getByText('document, 9 MB')).toBeVisible()
  await nothingForAxe(host, 'what is handed out')
  await nothingForAxe(nia, 'a file that is offered')

  const ranges: (string | undefined)[] = []
  await nia.route('**/handouts/*/file', async (route) => {
    ranges.push(route.request().headers()['range'])
    // The first answer ends in the middle.
    return ranges.length === 1
      ? route.fulfill({ status: 200, contentType: 'application/pdf', body: file.subarray(0, 4_000_001) })
      : route.continue()
  })
  const saved = nia.waitForEvent('download')
  await nia.getByRole('button', { name: 'Take it' }).click()
  const download = await saved
  expect(download.suggestedFilename()).toBe('Reach map.pdf')
  expect(readFileSync(await download.path()).equals(file), 'the same bytes').toBe(true)
  expect(ranges).toEqual([undefined, 'bytes=4000001-'])
  await expect(nia.getByRole('heading', { name: /hands out/ })).toHaveCount(0)
  await expect(host.getByText('taken by 1 person')).toBeVisible()

  await teodor.getByRole('button', { name: 'No thanks' }).click()
  await expect(teodor.getByRole('heading', { name: /hands out/ })).toHaveCount(0)
  await teodor.reload()
  await teodor.getByRole('button', { name: /^Papers and files/ }).click()
  await expect(teodor.getByText('you wanted none of it')).toBeVisible()
  await teodor.keyboard.press('Escape')
})

test('one person alone is given a form, prints it, and nobody else reads of it', async ({ browser }) => {
  const maker = await (await browser.newContext()).newPage()
  await maker.setContent('<h1>One</h1><h1 style="break-before: page">Two</h1>')
  const form = await maker.pdf()
  await maker.close()
  await host.getByRole('region', { name: 'Hand out a file' }).getByRole('combobox').selectOption('Nia Okafor')
  await host.getByLabel('For printing: it leads to their own print dialog').check()
  await chooses(host, 'Form.pdf', form)
  await expect(nia.getByRole('heading', { name: 'Odalys Brandt hands you Form.pdf' })).toBeVisible()
  await nia.getByRole('button', { name: 'Print it…' }).click()
  await expect
    .poll(() => nia.evaluate(() => (window as unknown as { printed?: number[] }).printed), { timeout: 20_000 })
    .toEqual([1600, 1600])
  await expect(teodor.getByText('Form.pdf')).toHaveCount(0)
  await expect(host.getByText('to Nia Okafor · taken by 1 person')).toBeVisible()
})

test('the bench says what may be handed out, keeps a file for all, and ends it', async () => {
  await host.getByText('What may be handed out').click()
  await host.getByLabel('Largest file, in MB (1 to 100)').fill('1')
  await host.keyboard.press('Tab')
  await expect(host.getByText('At most 1 MB: documents, pictures.')).toBeVisible()
  await chooses(host, 'Large.pdf', counted(2_000_000))
  await expect(host.getByText('The file is too large. At most 1 MB can be sent.')).toBeVisible()
  await host.getByRole('button', { name: 'Put away' }).click()
  await chooses(host, 'Tool.bin', Buffer.from('no known kind'), 'application/octet-stream')
  await expect(host.getByText(/does not allow this kind of file/)).toBeVisible()
  await host.getByRole('button', { name: 'Put away' }).click()
  await host.getByRole('button', { name: 'Keep Reach map.pdf with the papers' }).click()
  await expect(host.getByRole('link', { name: 'Reach map.pdf' })).toBeVisible()
  await host.getByRole('button', { name: 'Hand out Reach map.pdf no longer' }).click()
  await nia.getByRole('button', { name: /^Papers and files/ }).click()
  await expect(nia.getByRole('button', { name: 'Save Form.pdf again' })).toBeVisible()
  await expect(nia.getByRole('button', { name: 'Save Reach map.pdf again' })).toHaveCount(0)
  await nothingForAxe(nia, 'papers and files')
})

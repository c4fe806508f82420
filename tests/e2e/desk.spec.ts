import { expect, test, type Page } from '@playwright/test'
import { announce, type Court, courtWithHost, nothingForAxe, person } from './court'

let court: Court
let host: Page
test.beforeAll(async ({ browser }) => {
  ;[court, host] = await courtWithHost(browser)
})
test.afterAll(() => court.stop())

const click = (name: string | RegExp) => host.getByRole('button', { name }).first().click()
const saved = async () => {
  await click('Save the plan')
  await expect(host.getByText('The plan is saved.')).toBeVisible()
}
/** A new plan that comes every week; answers with its guest link. */
async function plan(title: string): Promise<string> {
  await host.goto(`${court.url}/plan/new`)
  await host.getByLabel('Title', { exact: true }).fill(title)
  await host.getByRole('radio', { name: 'Recurring' }).click()
  await click('Make the session')
  await expect(host.getByRole('heading', { name: title, level: 1 })).toBeVisible()
  return guestLink()
}
async function guestLink(): Promise<string> {
  await click('Copy link')
  return host.evaluate(() => navigator.clipboard.readText())
}

test('contacts are added, changed, found, removed, and put back', async () => {
  await host.goto(`${court.url}/contacts`)
  await click('Add a contact')
  await host.getByLabel('Name', { exact: true }).fill('Ásdís Þorleifsdóttir')
  await host.getByLabel('E-mail').fill('asdis-at-nowhere')
  await host.getByLabel('Groups, with commas between').fill('weirs, upper reach')
  await click(/^Save$/)
  await expect(host.getByText(/That is no e-mail address/)).toBeVisible()
  await expect(host.getByLabel('Name', { exact: true })).toHaveValue('Ásdís Þorleifsdóttir')
  await host.getByLabel('E-mail').fill('asdis@larkmoor.example.org')
  await click(/^Save$/)
  const row = host.getByRole('row', { name: /Ásdís/ })
  await expect(row).toContainText('weirs, upper reach')

  await click('Edit Ásdís Þorleifsdóttir')
  await host.getByLabel('Telephone').fill('+354 555 0100')
  await click(/^Save$/)
  await expect(row).toContainText('+354 555 0100')
  const others = await host.getByRole('row').count()
  await host.getByLabel('Find', { exact: true }).fill('weirs')
  await expect(host.getByRole('row')).toHaveCount(2)
  await host.getByLabel('Find', { exact: true }).fill('')
  await click('Remove Ásdís Þorleifsdóttir')
  await expect(row).toHaveCount(0)
  await nothingForAxe(host, 'contact removed')
  await click('Put back')
  await expect(row).toContainText('asdis@larkmoor.example.org')
  await expect(row).toContainText('+354 555 0100')
  await expect(host.getByRole('row')).toHaveCount(others)
})

test('a rule, its days and those without; orders kept and taken; all of it stands there when one comes back', async () => {
  await plan('Weekly round')
  const times = host.getByText(/^The next \d+ times/).locator('..')
  const [wednesday, friday] = [/\b9 Apr|Apr 9\b/, /11 Apr|Apr 11/]
  await host.getByLabel('Start').fill('2031-04-07T09:00')
  await host.getByLabel('Every how many weeks').fill('2')
  for (const day of ['Wed', 'Fri']) await click(day)
  await host.getByLabel('Last day, if any').fill('2031-05-10')
  await host.getByLabel('Not on this day').fill('2031-04-09')
  await click('Leave it out')
  await saved()
  await expect(times).toContainText(friday)
  await expect(times).not.toContainText(wednesday)

  await click(/^Door/)
  await host.getByRole('radio', { name: /All walk in/ }).click()
  await click(/^Cameras/)
  await host.getByRole('radio', { name: /^presenters/ }).click()
  await host.getByLabel('Name for these orders').fill('Open round')
  await click('Keep them')
  await expect(host.getByText('The orders of now are kept as “Open round”.')).toBeVisible()
  await saved()

  await plan('Taken over')
  await host.getByLabel('Orders kept before').selectOption('Open round')
  await saved()
  await host.reload()
  await expect(host.getByRole('button', { name: 'Door open' })).toBeVisible()
  await expect(host.getByRole('button', { name: 'Cameras presenters' })).toBeVisible()
  await host.getByLabel('Orders kept before').selectOption('Open round')
  await click('Remove “Open round” from the list')
  await expect(host.getByLabel('Orders kept before').getByRole('option')).toHaveCount(1)

  await host.goto(court.url)
  await click('Edit the plan: Weekly round')
  await expect(host.getByLabel('Every how many weeks')).toHaveValue('2')
  await expect(host.getByRole('button', { name: 'Wed', exact: true })).toHaveAttribute('aria-pressed', 'true')
  await expect(host.getByLabel('Last day, if any')).toHaveValue('2031-05-10')
  await test.step('what is typed stays when the plan cannot be fetched anew meanwhile', async () => {
    await host.getByLabel('Description').fill('Not saved yet')
    const failed = host.waitForEvent('requestfailed')
    await host.route('**/api/plans/*', (route) => route.abort())
    await host.evaluate(() => window.dispatchEvent(new Event('visibilitychange')))
    await failed
    await host.waitForTimeout(1500)
    await expect(host.getByLabel('Description')).toHaveValue('Not saved yet')
    await host.unroute('**/api/plans/*')
  })
  await click('Put 2031-04-09 back')
  await saved()
  await expect(times).toContainText(wednesday)
})

test('a docket typed by hand says which line is wrong; what is discarded is as it was', async () => {
  await plan('Typed by hand')
  await click('Add a person')
  await host.getByLabel('Name', { exact: true }).fill('Runa Halvari')
  await host.getByLabel('E-mail', { exact: true }).fill('runa-at-nowhere')
  await host.getByLabel('Role', { exact: true }).selectOption('presenter')
  await host.getByLabel('Group', { exact: true }).fill('upper reach')
  await click('Keep the docket')
  await expect(host.getByText(/^Line 1: That is no e-mail address/)).toBeVisible()
  await host.getByLabel('E-mail', { exact: true }).fill('runa@larkmoor.example.org')
  await click('Keep the docket')
  await expect(host.getByText('The docket is kept.')).toBeVisible()
  await click('Remove Runa Halvari')
  await click('Discard the changes')
  await expect(host.getByLabel('Name', { exact: true })).toHaveValue('Runa Halvari')
  await host.getByLabel('Import CSV or vCard').setInputFiles({
    name: 'more.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('name,email\nBo Lind,bo@larkmoor.example.org\n,nobody@larkmoor.example.org\n'),
  })
  await expect(host.getByText('1 understood, 1 not.')).toBeVisible()
  await click('Take 1')
  await click('Keep the docket')
  await click('Invite 2 people by mail')
  await expect(host.getByText('2 messages are in the outbox.')).toBeVisible()
  await nothingForAxe(host, 'docket by hand')
})

test('a link that got around is made anew; a session is copied, cancelled, and takes place after all', async ({ browser }) => {
  const old = await plan('Got around')
  await click('Make a new link')
  await click('Back')
  expect(await guestLink()).toBe(old)
  await click('Make a new link')
  await click('Make a new link and end the old one')
  await expect.poll(guestLink).not.toBe(old)
  const link = await guestLink()
  const nia = await person(browser, court)
  await nia.goto(old)
  await expect(nia.getByRole('heading', { level: 1 })).not.toContainText('Got around')

  await test.step('where the browser does not copy, the text stands there to be copied by hand', async () => {
    await host.evaluate(() => (navigator.clipboard.writeText = () => Promise.reject(new Error())))
    await click('Copy link')
    await expect(host.getByLabel('The browser did not let it be copied. Copy it from here:')).toHaveValue(link)
    await nothingForAxe(host, 'copied by hand')
    await host.reload()
  })

  await click('Make a passcode')
  await click('No passcode')
  await expect(host.getByRole('button', { name: 'Make a passcode' })).toBeVisible()
  await host.getByLabel('Add a paper').setInputFiles({
    name: 'plan.txt',
    mimeType: 'text/plain',
    buffer: Buffer.from('Weirs'),
  })
  await click('Remove plan.txt')
  await click('Remove it for good')
  await expect(host.getByText('No papers yet.')).toBeVisible()

  await click('Duplicate')
  await expect(host).toHaveURL(/\/plan\//)
  await expect.poll(guestLink).not.toBe(link)
  await host.goBack()
  await expect.poll(guestLink).toBe(link)
  await click('Cancel the session…')
  await click('Back')
  await click('Cancel the session…')
  await click(/^Cancel the session$/)
  await expect(host.getByText('This session is cancelled.')).toBeVisible()
  await nia.goto(link)
  await expect(nia.getByText(/cancelled/).first()).toBeVisible()
  await host.route('**/restore', (route) => route.abort())
  await click('Let it take place after all')
  await expect(host.getByRole('alert')).toHaveText(/^The server does not answer/)
  await host.unroute('**/restore')
  await click('Let it take place after all')
  await expect(host.getByText('This session is cancelled.')).toBeHidden()

  await test.step('from the door the host prepares it first; who comes waits until it opens', async () => {
    await host.goto(link)
    await click('Prepare first')
    await click('Enter as host')
    await expect(host.getByRole('region', { name: 'Board' })).toBeVisible()
    await announce(nia, link, 'Nia Okafor')
    await expect(nia.getByText(/is preparing Got around/)).toBeVisible()
    await click('Not open yet')
    await click('Admit Nia Okafor')
    await expect(nia.getByTestId('may')).toBeVisible()
  })
})

test('whoever signs out is out, on every page', async () => {
  await host.goto(court.url)
  await click('Sign out')
  await expect(host.getByLabel('Password')).toBeVisible()
  await host.goto(`${court.url}/contacts`)
  await expect(host.getByLabel('Password')).toBeVisible()
})

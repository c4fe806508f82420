import { expect, test, type Page } from '@playwright/test'
import { aMoment, announce, type Visits, visitsWithHost, nothingForAxe, openNow, person, strip } from './court'

// Each test goes on from where the last one left the sitting.
test.describe.configure({ mode: 'serial' })

let court: Visits
let host: Page
let nia: Page
let jun: Page
let bo: Page
let link: string
/** What Nia's page sends while her line is slow; null while it is not. */
let held: (() => void)[] | null = null
test.beforeAll(async ({ browser }) => {
  ;[court, host] = await visitsWithHost(browser)
  link = await openNow(host, 'By hand')
  nia = await person(browser, court)
  await nia.routeWebSocket(/\/live/, (near) => {
    const far = near.connectToServer()
    near.onMessage((message) => (held ? held.push(() => far.send(message)) : far.send(message)))
  })
  await announce(nia, link, 'Nia Okafor', { camera: true, microphone: true })
  jun = await person(browser, court)
  await announce(jun, link, 'Jun Takeda')
  bo = await person(browser, court)
  await announce(bo, link, 'Bo Lind')
  await expect(strip(host, 'Bo Lind')).toBeVisible()
})
test.afterAll(() => court.stop())

const click = (name: string | RegExp) => host.getByRole('button', { name }).first().click()
const may = (page: Page) => page.getByTestId('may')
const waits = (page: Page) => expect(page.getByRole('heading', { name: 'You are announced' })).toBeVisible()
const row = (name: string) => strip(host, name).locator('[data-strip]')
/** Selects exactly these on the board. */
async function select(...names: string[]) {
  if (await host.getByRole('button', { name: 'Clear', exact: true }).isVisible()) await click(/^Clear$/)
  for (const name of names) await row(name).click({ modifiers: ['Control'] })
}
/** Leaves whatever panel is open. */
async function leave() {
  await host.keyboard.press('Escape')
  await expect(host.getByRole('dialog')).toHaveCount(0)
}

test('those who wait read a notice, and are admitted together as presenters', async () => {
  await click('Door 3 wait · attended')
  await host.getByLabel('Notice to everybody in the lobby').fill('We begin at the hour.')
  await click('Send to 3 people')
  for (const page of [nia, jun, bo]) await expect(page.getByText('We begin at the hour.')).toBeVisible()
  await select('Nia Okafor', 'Jun Takeda')
  await click('Admit as…')
  await click('Admit as presenter')
  for (const page of [nia, jun]) await expect(page.getByText('you, presenter')).toBeVisible()
  await select('Bo Lind')
  await click('Admit 1')
  await expect(may(bo)).toBeVisible()
})

test('what is done to many says how many, touches those alone, and is given back as it was', async () => {
  await test.step('microphones', async () => {
    await jun.getByRole('button', { name: 'Mic off' }).click()
    await select('Nia Okafor', 'Jun Takeda', 'Bo Lind')
    await aMoment(host)
    await click('Mute 2')
    for (const page of [nia, jun]) await expect(page.getByText('The bench has muted you.')).toBeVisible()
    await click('Ask 3 to unmute')
    await bo.getByRole('button', { name: 'Open my microphone' }).click()
    await expect(bo.getByRole('button', { name: 'Mic on' })).toBeVisible()
    await jun.getByRole('button', { name: 'Not now' }).click()
    await expect(host.getByRole('button', { name: 'Mute 1' })).toBeVisible()
  })

  await test.step('cameras', async () => {
    await click('1 camera off')
    await expect(nia.getByRole('button', { name: 'Cam off' })).toBeVisible()
    await expect(host.getByRole('button', { name: /cameras? off$/ })).toHaveCount(0)
  })

  await test.step('roles: two lose theirs, and have it again', async () => {
    await click('Role…')
    await click('Make attendee')
    for (const page of [nia, jun]) await expect(page.getByText('you, attendee')).toBeVisible()
    await click(/^Take back: /)
    for (const page of [nia, jun]) await expect(page.getByText('you, presenter')).toBeVisible()
    await expect(bo.getByText('you, attendee')).toBeVisible()
  })

  await test.step('the lobby, and back into the seats', async () => {
    await select('Jun Takeda', 'Bo Lind')
    await click('Send 2 to lobby')
    await waits(jun)
    await waits(bo)
    await click(/^Take back: /)
    await expect(may(jun)).toBeVisible()
    await expect(may(bo)).toBeVisible()
    await expect(jun.getByText('you, presenter')).toBeVisible()
  })

  await test.step('all hands are lowered at once', async () => {
    await leave()
    for (const page of [jun, bo]) await page.keyboard.press('h')
    await click('Lower all hands')
    for (const page of [jun, bo]) await expect(page.getByRole('button', { name: 'Ask for the floor' })).toBeVisible()
  })

  await test.step('all but presenters are muted', async () => {
    await select()
    await nia.getByRole('button', { name: 'Mic off' }).click()
    await expect(nia.getByRole('button', { name: 'Mic on' })).toBeVisible()
    await click('Mute all but presenters')
    await expect(bo.getByRole('button', { name: 'Mic off' })).toBeVisible()
    await expect(nia.getByRole('button', { name: 'Mic on' })).toBeVisible()
  })
})

test('one person from the panel on the board: front, role, words, lobby, and out', async () => {
  const picture = host.getByRole('region', { name: 'Picture', exact: true }).locator('figure')
  await click('Open Bo Lind')
  await click('In front for me')
  await expect(picture.first()).toContainText('Bo Lind')
  await click('Open Bo Lind')
  await host.getByRole('radio', { name: 'Make deputy' }).click()
  await expect(bo.getByRole('region', { name: 'Board' })).toBeVisible()
  await host.getByRole('radio', { name: 'Make attendee' }).click()
  await expect(may(bo)).toBeVisible()
  await nothingForAxe(host, 'a person inside')

  await test.step('words for one alone reach nobody else', async () => {
    await click('Write a message')
    await host.keyboard.type('You are next.')
    await expect(host.getByRole('textbox', { name: 'Write to Bo Lind alone' })).toHaveValue('You are next.')
    await host.keyboard.press('Enter')
    await expect(bo.getByRole('region', { name: 'Messages' })).toContainText('You are next.')
    await host.getByLabel('To', { exact: true }).selectOption('everyone')
    await host.getByRole('textbox', { name: 'Write to everyone' }).fill('Welcome, all.')
    await click('Send')
    await expect(jun.getByRole('region', { name: 'Messages' })).toContainText('Welcome, all.')
    await expect(jun.getByText('You are next.')).toHaveCount(0)
  })

  await test.step('words are found; a change that is given up changes nothing', async () => {
    await host.getByLabel('Find words').fill('welcome')
    const found = host.getByRole('region', { name: 'Messages found' })
    await expect(found).toContainText('1 message found')
    await host.getByLabel('Find words').fill('weir')
    await expect(found).toContainText('0 messages found')
    await host.getByLabel('Find words').fill('')
    const message = host.locator('[data-message]', {
      hasText: 'Welcome, all.',
    })
    await message.hover()
    await message.getByRole('button', { name: 'Change' }).click()
    await host.getByRole('textbox', { name: 'Change' }).fill('Away with you.')
    await host.keyboard.press('Escape')
    await expect(message).toBeVisible()
  })

  await test.step('what is refused late, while another is being written, is kept beside it', async () => {
    const field = nia.getByRole('textbox', { name: /^Write to/ })
    await nia.getByLabel('To', { exact: true }).selectOption('Jun Takeda')
    await field.fill('Between us two')
    await click('Orders usual')
    await host.getByRole('radio', { name: 'Chat to one: bench' }).hover()
    held = []
    await field.press('Enter')
    await host.getByRole('radio', { name: 'Chat to one: bench' }).click()
    await leave()
    await nia.getByLabel('To', { exact: true }).selectOption('everyone')
    await field.fill('To everyone')
    for (const send of held.splice(0)) send()
    held = null
    const unsent = nia.getByRole('group', { name: 'Not sent' })
    await expect(unsent).toContainText('It was for: Jun Takeda')
    await expect(unsent).toContainText('Between us two')
    await nothingForAxe(nia, 'a message not sent')
    await unsent.getByRole('button', { name: 'Write it again' }).click()
    await expect(field).toHaveValue('Between us two')
    await expect(unsent).toContainText('To everyone')
    await nia.getByLabel('To', { exact: true }).selectOption('the bench only')
    await field.press('Enter')
    await expect(host.getByRole('region', { name: 'Messages' })).toContainText('Between us two')
    await unsent.getByRole('button', { name: 'Drop it' }).click()
    await expect(unsent).toHaveCount(0)
    await click(/^Take back: /)
  })

  await test.step('who has left cannot be written to, and what was typed stays', async () => {
    await nia.getByLabel('To', { exact: true }).selectOption('Bo Lind')
    await nia.getByRole('textbox', { name: 'Write to Bo Lind alone' }).fill('One more thing')
    await click('Open Bo Lind')
    await click('Send to lobby')
    await waits(bo)
    await expect(nia.getByText('That person has left. Choose to whom it goes.')).toBeVisible()
    await expect(nia.getByRole('button', { name: 'Send', exact: true })).toBeDisabled()
    await nia.getByLabel('To', { exact: true }).selectOption('everyone')
    await expect(nia.getByRole('textbox', { name: 'Write to everyone' })).toHaveValue('One more thing')
  })

  await test.step('removed for good, the door stays shut', async () => {
    await select('Bo Lind')
    await click('Remove…')
    await click('Remove for good')
    await expect(bo.getByRole('heading', { name: 'You cannot come back' })).toBeVisible()
    await bo.goto(link)
    await expect(bo.getByRole('heading', { name: 'You cannot come back' })).toBeVisible()
    await expect(host.getByRole('button', { name: /^Take back: removing/ })).toHaveCount(0)
  })
})

test('orders are kept under a name, taken again with a look before, and a chosen exception ends', async () => {
  await select()
  const orders = /^Orders /
  await click(orders)
  await host.getByRole('radio', { name: 'Cameras: bench' }).click()
  await host.getByRole('radio', { name: 'Reactions: presenters' }).click()
  await host.getByLabel('Name for these orders').fill('A quiet hour')
  await host.keyboard.press('Enter')
  await expect(host.getByText('The orders of now are kept as “A quiet hour”.')).toBeVisible()
  await host.getByRole('radio', { name: 'Cameras: everyone' }).click()
  await host.getByRole('radio', { name: 'Reactions: everyone' }).click()
  await expect(may(jun)).toContainText('show your camera')
  await host.getByLabel('Orders kept before').selectOption('A quiet hour')
  await expect(host.getByText(/2 people would lose: showing the camera/)).toBeVisible()
  await click('Take these orders')
  await expect(may(jun)).not.toContainText('show your camera')
  await expect(host.getByText('It is so already.')).toBeVisible()

  await test.step('an exception is named among the orders, and ends there', async () => {
    await leave()
    await select('Jun Takeda')
    await click('Exceptions…')
    await host.getByLabel('show the camera').selectOption('always')
    await expect(may(jun)).toContainText('show your camera')
    await leave()
    await select()
    await click(orders)
    await expect(host.getByText('Jun Takeda: always')).toBeVisible()
    await click(/^End$/)
    await expect(may(jun)).not.toContainText('show your camera')
    await leave()
  })
})

test('the run sheet turns to any item; the time is ended, left open, and handed on', async () => {
  await host.keyboard.press('g')
  await host.keyboard.press('r')
  await click('Edit')
  for (const title of ['Reports', 'Questions', 'Closing']) {
    await click('Add an item')
    await host.getByRole('textbox', { name: /^Item/ }).last().fill(title)
  }
  await click('Move Reports down')
  await click('Remove Closing')
  await click('Save the run sheet')
  await click('Begin Reports')
  await expect(nia.getByText('2/2 Reports')).toBeVisible()
  await click('Begin Questions')
  await expect(nia.getByText('1/2 Questions')).toBeVisible()
  await expect(host.getByText(/minutes? under the plan/)).toBeVisible()
  await click('End it')
  await expect(nia.getByText('1/2 Questions')).toBeHidden()
  await click('Edit')
  await host.getByRole('textbox', { name: 'Item 1' }).fill('Nothing of this')
  await host.getByRole('button', { name: 'Cancel', exact: true }).click()
  await expect(host.getByText('Nothing of this')).toHaveCount(0)

  await test.step('planned end and succession', async () => {
    await click(/^By hand/)
    await click('End in 10 minutes')
    await expect(nia.getByText(/10 min left|9:5\d left/)).toBeVisible()
    await click('5 minutes more')
    await expect(nia.getByText(/15 min left|14:5\d left/)).toBeVisible()
    await click('Leave it open')
    await expect(host.getByText('No end is planned.')).toBeVisible()
    await host.getByLabel('If the host’s connection is lost').selectOption('nobody takes over')
    await expect(host.getByText(/lets nobody take over/).or(host.getByRole('button', { name: /^Take back: / }))).toBeVisible()
    await leave()
  })
})

test('the ledger is narrowed to a person, to the bench and to a time, and shown whole again', async () => {
  await host.keyboard.press('g')
  await host.keyboard.press('e')
  const ledger = host.getByRole('list', { name: 'Ledger' }).getByRole('listitem')
  await click('Filter…')
  await host.getByLabel('Whom it concerns').selectOption('Bo Lind')
  await expect(ledger.filter({ hasText: /removed Bo Lind for good/ })).toHaveCount(1)
  await expect(ledger.filter({ hasNotText: 'Bo Lind' })).toHaveCount(0)
  const all = await ledger.count()
  await host.getByLabel('Only what the bench did').check()
  await expect.poll(() => ledger.count()).toBeLessThan(all)
  await expect(ledger.filter({ hasNotText: 'Odalys Brandt' })).toHaveCount(0)
  await host.getByLabel('About').selectOption('picture')
  await expect(host.getByText('No entry fits that.')).toBeVisible()
  await nothingForAxe(host, 'ledger filter')
  await host.getByLabel('About').selectOption('')
  await host.getByLabel('When').selectOption('the last 60 minutes')
  await expect(ledger.filter({ hasText: /removed Bo Lind for good/ })).toHaveCount(1)
  await leave()
  await click('Show all')
  await expect(ledger.filter({ hasText: 'run sheet' }).first()).toBeVisible()
  await host.keyboard.press('g')
  await host.keyboard.press('x')
  await expect(ledger).toHaveCount(0)
})

test('settings act at once, and hold when the page comes again', async () => {
  const size = () => host.evaluate(() => getComputedStyle(document.documentElement).fontSize)
  const height = async () => (await row('Jun Takeda').boundingBox())!.height
  const [before, tall] = [await size(), await height()]
  await click('Settings')
  await host.getByRole('tab', { name: 'Appearance' }).click()
  await host.getByLabel('Size of the text').selectOption('130 %')
  await host.getByRole('radio', { name: 'dark' }).click()
  await host.getByRole('radio', { name: 'compact' }).click()
  await nothingForAxe(host, 'appearance, dark and large')
  await host.getByRole('tab', { name: 'Notifications' }).click()
  await host.getByLabel('A sound when somebody comes').uncheck()
  await host.getByRole('tab', { name: 'Devices' }).click()
  await expect(host.getByLabel('Camera', { exact: true })).toBeVisible()
  await host.getByRole('tab', { name: 'Keys' }).click()
  await click('My microphone: 1. Change the key')
  await host.keyboard.press('2')
  await expect(host.getByText('My microphone and “My camera” have exchanged their keys; the latter is 1 now.')).toBeVisible()
  await host.reload()
  await expect(row('Jun Takeda')).toBeVisible()
  expect(parseFloat(await size()) / parseFloat(before)).toBeCloseTo(1.3)
  expect(await height()).toBeLessThan(tall * 1.3)
  expect(await host.evaluate(() => getComputedStyle(document.documentElement).colorScheme)).toBe('dark')
  await host.keyboard.press('2')
  await expect(host.getByRole('button', { name: 'Mic on' })).toBeVisible()
  await click('Settings')
  await click('Usual keys again')
  await expect(host.getByText('All keys are the usual ones again.')).toBeVisible()
  await leave()
  await host.keyboard.press('1')
  await expect(host.getByRole('button', { name: 'Mic off' })).toBeVisible()
})

test('who leads leaves last: the session stays open, and is come back to', async () => {
  for (const page of [nia, jun]) {
    await page.getByRole('button', { name: 'Leave', exact: true }).click()
    await expect(page.getByRole('heading', { name: 'You left' })).toBeVisible()
  }
  await click('Leave…')
  await expect(host.getByText('Nobody else is inside.')).toBeVisible()
  await click('Leave the session')
  await expect(host.getByRole('heading', { name: 'You left' })).toBeVisible()
  await host.goto(court.url)
  await expect(host.getByRole('link', { name: 'Plan a session' })).toBeVisible()
})

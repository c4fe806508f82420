import { expect, test, type Locator, type Page } from '@playwright/test'
import { announce, type Court, courtWithHost, nothingForAxe, openNow, person, strip } from './court'

let court: Court
let host: Page
let nia: Page
let jun: Page
let link: string
test.beforeAll(async ({ browser }) => {
  ;[court, host] = await courtWithHost(browser)
  nia = await person(browser, court)
  jun = await person(browser, court)
})
test.afterAll(() => court.stop())

async function open(title: string) {
  await host.goto(court.url)
  link = await openNow(host, title)
  await announce(nia, link, 'Nia Okafor')
  await announce(jun, link, 'Jun Takeda')
  await expect(strip(host, 'Jun Takeda')).toBeVisible()
}

/** Types a line into the command line, reads what it would do, and does it. */
async function say(line: string, told?: string | RegExp) {
  await host.keyboard.press('/')
  await host.keyboard.type(line)
  const input = host.getByRole('combobox', { name: 'Command line' })
  await expect(input).toHaveValue(line)
  if (told) await expect(host.locator('[role=status]', { hasText: told }).first()).toBeVisible()
  await host.keyboard.press('Enter')
  await expect(input).toHaveValue('')
  await host.keyboard.press('Escape')
}

const may = (page: Page) => page.getByTestId('may')
const chat = (page: Page) => page.getByRole('region', { name: 'Messages' })

test('a whole assembly is run with keys and the command line alone', async () => {
  await open('By keys')
  await say('admit waiting', 'admitting Nia Okafor and Jun Takeda · It touches 2 people.')
  await expect(may(jun)).toBeVisible()
  await expect(nia.getByText('Nobody has written yet.')).toBeVisible()

  await test.step('the order of business', async () => {
    await say('add item Reports of 5 min')
    await say('add item Questions of 10 min')
    await host.keyboard.press('i')
    await expect(nia.getByText('1/2 Reports')).toBeVisible()
    await host.keyboard.press('g')
    await host.keyboard.press('r')
    await expect(host.getByRole('button', { name: 'Next item: Questions' })).toBeVisible()
  })

  await test.step('the floor', async () => {
    await say('microphones by leave', 'microphones by leave')
    await expect(nia.getByText(/The bench opens microphones/).first()).toBeVisible()
    await nia.keyboard.press('h')
    await expect(host.getByText('1 hand ·')).toBeVisible()
    await host.keyboard.press('f')
    await expect(nia.getByRole('heading', { name: 'You have the floor' })).toBeVisible()
    await host.keyboard.press('F')
    await say('floor to ju for 3 min', 'giving the floor to Jun Takeda')
    await expect(nia.getByText('Jun Takeda has the floor')).toBeVisible()
    await expect(nia.getByText(/of 3:00/)).toBeVisible()
  })

  await test.step('writing: to all by the chat, to one by the line, with markup left as it is', async () => {
    await host.keyboard.press('c')
    await expect(host.getByRole('textbox', { name: 'Write to everyone' })).toBeFocused()
    await host.keyboard.type('Good morning <b>all</b>')
    await host.keyboard.press('Enter')
    await expect(chat(nia)).toContainText('Good morning <b>all</b>')
    await host.evaluate(() => (document.activeElement as HTMLElement).blur())
    await say('write to nia: see me after')
    await expect(chat(nia)).toContainText('to you alone')
    await expect(chat(jun)).not.toContainText('see me after')
  })

  await test.step('exceptions, front, recess, roles, each said on the other side', async () => {
    await say('keep jun from react', 'Jun Takeda would lose: reactions.')
    await expect(may(jun)).not.toContainText('show reactions')
    await expect(may(nia)).toContainText('show reactions')
    await say('front nia')
    await say('picture pair')
    await expect(jun.getByText('The bench has set the picture for all: pair.')).toBeVisible()
    await say('recess of 2 min: Tea', 'the recess')
    await expect(nia.getByRole('region', { name: 'Recess' })).toContainText('Tea')
    await host.keyboard.press('Control+z')
    await expect(nia.getByText('The session goes on.')).toBeVisible()
    await say('make jun deputy')
    await expect(jun.getByText('you, deputy')).toBeVisible()
  })

  await test.step('the next line is typed while the last is under way; what is refused comes back', async () => {
    const input = host.getByRole('combobox', { name: 'Command line' })
    await host.keyboard.press('/')
    await host.keyboard.press('/')
    await host.keyboard.type('write to the bench: first')
    await host.keyboard.press('Enter')
    await host.keyboard.press('Enter')
    await host.keyboard.type('unlock')
    await expect(chat(host)).toContainText('first')
    await expect(input).toHaveValue('unlock')
    await expect(chat(host).getByText('first', { exact: true })).toHaveCount(1)
    await host.keyboard.press('Enter')
    await expect(host.getByRole('alert').getByText('It is so already.')).toBeVisible()
    await expect(input).toHaveValue('unlock')
    await host.keyboard.press('Escape')
    await host.keyboard.press('Escape')
  })

  await test.step('what cannot be done says why, and stays in the line', async () => {
    await host.keyboard.press('/')
    await host.keyboard.type('mute Zebulon')
    await expect(host.getByText('Nobody here is called “Zebulon”.')).toBeVisible()
    await host.keyboard.press('Enter')
    await expect(host.getByRole('combobox', { name: 'Command line' })).toHaveValue('mute Zebulon')
    await nothingForAxe(host, 'bench with the command line')
    await host.keyboard.press('Escape')
    await host.keyboard.press('Escape')
  })

  await test.step('typing goes on where it was meant while a panel closes, and no letter of it acts', async () => {
    await host.getByRole('button', { name: 'By keys' }).click()
    await expect(host.getByRole('dialog', { name: 'Time, recess, and who leads' })).toBeVisible()
    await host.keyboard.press('Escape')
    await host.keyboard.press('/')
    await host.keyboard.type('recess of 5 min: quick cake')
    await expect(host.getByRole('combobox', { name: 'Command line' })).toHaveValue('recess of 5 min: quick cake')
    await host.keyboard.press('Escape')
    await host.keyboard.press('Escape')
    await host.keyboard.press('c')
    await host.keyboard.type('quite')
    await expect(host.getByRole('textbox', { name: 'Write to everyone' })).toHaveValue('quite')
    await host.getByRole('textbox', { name: 'Write to everyone' }).fill('')
    await host.evaluate(() => (document.activeElement as HTMLElement).blur())
  })

  await test.step('a key is changed, and acts', async () => {
    await host.keyboard.press('?')
    await host
      .getByRole('button', {
        name: 'Next item of the run sheet: i. Change the key',
      })
      .focus()
    await host.keyboard.press('Enter')
    await host.keyboard.press('j')
    await expect(host.getByText('Next item of the run sheet is j now.')).toBeVisible()
    await nothingForAxe(host, 'settings')
    await host.keyboard.press('Escape')
    await host.keyboard.press('j')
    await expect(nia.getByText('2/2 Questions')).toBeVisible()
  })

  await test.step('time, door, and the end', async () => {
    await say('extend by 20 min')
    await expect(nia.getByText(/20 min left/)).toBeVisible()
    await say('lock, late people wait', 'locking the door')
    await expect(nia.getByText('The door is locked: nobody else comes in.')).toBeVisible()
    await host.keyboard.press('/')
    await host.keyboard.type('adjourn')
    await expect(host.getByText('adjourning for everybody')).toBeVisible()
    await host.keyboard.press('Enter')
    await expect(host.getByText('This cuts off 2 people and cannot be taken back.')).toBeVisible()
    await host.keyboard.press('Enter')
    await expect(nia.getByRole('heading', { name: 'Adjourned' })).toBeVisible()
  })
})

test('a whole assembly is run with the mouse alone', async () => {
  await open('By mouse')
  const click = (name: string | RegExp) => host.getByRole('button', { name }).first().click()
  await click('Select all who wait')
  await click('Admit 2')
  await expect(may(jun)).toBeVisible()

  await test.step('orders: looked at before, chosen, and excepted for one', async () => {
    await click('Clear')
    await click('Orders usual')
    await host.getByRole('radio', { name: 'Reactions: bench' }).hover()
    await expect(host.getByText(/2 people would lose: reactions/)).toBeVisible()
    await host.getByRole('radio', { name: 'Reactions: bench' }).click()
    await expect(may(nia)).not.toContainText('show reactions')
    await nothingForAxe(host, 'orders')
    await host.mouse.click(700, 600)
    await click('Open Nia Okafor')
    await click('Exceptions…')
    await host.getByLabel('show reactions').selectOption('always')
    await expect(may(nia)).toContainText('show reactions')
    await click('Connection and history')
    await expect(host.getByText('Chromium on Linux')).toBeVisible()
    await host.mouse.click(700, 300)
  })

  await test.step('exceptions for two at once, who stood differently', async () => {
    await strip(host, 'Nia Okafor').locator('[data-strip]').click()
    await strip(host, 'Jun Takeda')
      .locator('[data-strip]')
      .click({ modifiers: ['Control'] })
    await click('Exceptions…')
    await expect(host.getByLabel('show reactions')).toHaveValue('mixed')
    await host.getByLabel('show reactions').selectOption('always')
    await expect(may(jun)).toContainText('show reactions')
    await host.getByLabel('show reactions').selectOption('as the orders say')
    await expect(may(jun)).not.toContainText('show reactions')
    await expect(may(nia)).not.toContainText('show reactions')
    await host.mouse.click(700, 300)
    await click('Clear')
  })

  await test.step('a question is marked, shown to all, and answered', async () => {
    await jun.getByRole('button', { name: 'Chat' }).click()
    await nia.getByRole('textbox', { name: 'Write to everyone' }).fill('When does the weir open?')
    await nia.getByLabel('It is a question').click()
    await nia.getByRole('button', { name: 'Send' }).click()
    await jun.getByRole('button', { name: 'Chat 1' }).click()
    await expect(chat(jun)).toContainText('When does the weir open?')
    await host.locator('[data-message]', { hasText: 'weir' }).hover()
    await click('Show to all')
    await expect(jun.getByRole('complementary', { name: 'Shown to all' })).toContainText('When does the weir open?')
    await nothingForAxe(jun, 'a seat with the chat and a question')
    await click('Answered, take it down')
    await expect(jun.getByRole('complementary', { name: 'Shown to all' })).toBeHidden()
    await expect(chat(jun)).toContainText('Question, answered')
  })

  await test.step('words of one’s own are changed and deleted; the bench removes with a mark', async () => {
    const message = nia.locator('[data-message]', { hasText: 'weir' })
    await message.hover()
    await message.getByRole('button', { name: 'Change' }).click()
    await nia.getByRole('textbox', { name: 'Change' }).fill('When does the weir close?')
    await nia.getByRole('button', { name: 'Save', exact: true }).click()
    await expect(chat(host)).toContainText('When does the weir close? (changed)')
    await host.locator('[data-message]', { hasText: 'weir' }).hover()
    await click('Remove')
    await expect(chat(nia)).toContainText('Removed by the bench.')
  })

  await test.step('a run sheet, its next item, and back', async () => {
    await click('Run sheet')
    await click('Edit')
    await click('Add an item')
    await host.getByRole('textbox', { name: 'Item 1' }).fill('Reports')
    await click('Lead, picture, orders, note')
    await host.getByLabel('Picture for all').selectOption('even')
    await click('Save the run sheet')
    await expect(host.getByText('the picture for all: even')).toBeVisible()
    await click('Next item: Reports')
    await expect(nia.getByText('The bench has set the picture for all: even.')).toBeVisible()
    await click(/^Take back: beginning “Reports”/)
    await expect(nia.getByText('You choose your picture yourself again.')).toBeVisible()
  })

  await test.step('the ledger is looked through, taken back from, and checked', async () => {
    await click('Ledger')
    await click('Filter…')
    await host.getByLabel('About').selectOption('orders')
    await expect(host.getByRole('list', { name: 'Ledger' }).getByRole('listitem')).toHaveCount(4)
    await host.mouse.click(700, 300)
    await click(/Take back: Odalys Brandt set reactions off/)
    await expect(may(jun)).toContainText('show reactions')
    await click('Check, save…')
    await click('Check that nothing was altered')
    await expect(host.getByText(/entries, and nothing was altered/)).toBeVisible()
    await nothingForAxe(host, 'ledger')
    await host.mouse.click(700, 300)
  })

  await test.step('recess, language, and the end, naming whom it cuts off', async () => {
    await click(/^By mouse/)
    await host.getByLabel('What stands on the picture').fill('Tea')
    await click('Call a recess')
    await expect(nia.getByRole('region', { name: 'Recess' })).toContainText('Tea')
    await nothingForAxe(nia, 'recess')
    await host.mouse.click(700, 400)
    await click('End the recess')
    await click('Adjourn…')
    await expect(host.getByText('Nia Okafor, Jun Takeda')).toBeVisible()
    await click('Adjourn, cutting off 2 people')
    await expect(nia.getByRole('heading', { name: 'Adjourned' })).toBeVisible()
    const download = nia.waitForEvent('download')
    await nia.getByRole('link', { name: 'Save the chat' }).click()
    expect((await download).suggestedFilename()).toBe('chat.txt')
  })
})

test('every change of right arrives at an attendee in words', async () => {
  await open('Rights')
  await say('admit waiting')
  await expect(may(nia)).toHaveText(
    'You may listen, speak, show your camera, write to anybody, ask for the floor, and show reactions.',
  )
  const told = nia.getByRole('status').filter({ hasNotText: /^$/ })
  const steps: [string, RegExp, RegExp][] = [
    ['microphones by leave', /What you may do has changed. You may listen, show your camera/, /The bench opens microphones/],
    ['let nia speak', /You may listen, speak,/, /speak/],
    ['keep nia from show the camera', /You may listen, speak, write/, /Cameras are for/],
    ['no exception for nia show the camera', /show your camera/, /show your camera/],
    ['writing to all for the bench', /write to the bench and to one person/, /write to the bench and to one person/],
    ['writing to one person for the bench', /write to the bench,/, /write to the bench,/],
    ['writing to the bench for the bench', /The chat is not open to you/, /The chat is not open to you/],
    ['reactions for the bench', /ask for the floor\. The chat/, /ask for the floor\. The chat/],
    ['the list of people for presenters', /You see the bench and presenters, not the other attendees/, /not the other attendees/],
    ['make nia presenter', /You are presenter now/, /speak/],
    ['make nia attendee', /You are attendee now/, /not the other attendees/],
    ['rename nia to Nia of Alder Brook', /Your name here is now Nia of Alder Brook/, /listen/],
    ['picture lead', /The bench has set the picture for all: lead/, /listen/],
    ['picture free', /You choose your picture yourself again/, /listen/],
    ['lock', /The door is locked/, /listen/],
    ['unlock', /The door is unlocked/, /listen/],
    ['recess', /A recess has begun/, /nobody hears or sees you until it ends/],
    ['resume', /The session goes on/, /listen/],
    ['hand over to jun', /Jun Takeda leads the session now/, /listen/],
  ]
  for (const [line, news, sentence] of steps) {
    await say(line)
    await expect(told.filter({ hasText: news }).first(), line).toBeVisible()
    await expect(may(nia), line).toHaveText(sentence)
  }
  await expect(jun.getByText('you, host')).toBeVisible()
  await nia.setViewportSize({ width: 360, height: 740 })
  await nothingForAxe(nia, 'a seat on a phone')

  await test.step('at twice the size the picture comes first, then oneself and the board; the side stands at the foot', async () => {
    await jun.setViewportSize({ width: 640, height: 400 })
    await jun.reload()
    const side = jun.getByRole('navigation', { name: 'Beside the picture' })
    await expect(side.getByRole('button', { name: 'Run sheet' })).toBeInViewport()
    await expect(jun.getByRole('region', { name: 'Messages' })).toBeHidden()
    const top = async (area: Locator) => (await area.boundingBox())!.y
    const own = await top(jun.getByRole('button', { name: /My name and devices/ }))
    expect(await top(jun.getByRole('region', { name: 'Picture' }))).toBeLessThan(own)
    expect(own).toBeLessThan(await top(jun.getByRole('region', { name: 'Board' })))
    await side.getByRole('button', { name: 'Chat' }).click()
    await expect(jun.getByRole('textbox', { name: 'Write to everyone' })).toBeInViewport()
    await nothingForAxe(jun, 'bench at 200 %')
  })
})

import { expect, test, type Page } from '@playwright/test'
import { announce, type Court, courtWithHost, nothingForAxe, person, signIn, strip } from './court'

let court: Court
let host: Page
test.beforeAll(async ({ browser }) => {
  ;[court, host] = await courtWithHost(browser)
})
test.afterAll(() => court.stop())

/** From Today, as the host plans. */
async function plan(title: string, kind: 'Once' | 'Recurring' | 'Standing', door: RegExp) {
  await host.goto(court.url)
  await host.getByRole('link', { name: 'Plan a session' }).click()
  await host.getByLabel('Title', { exact: true }).fill(title)
  await host.getByRole('radio', { name: kind }).click()
  await host.getByRole('button', { name: /^Door/ }).click()
  await host.getByRole('radio', { name: door }).click()
  await host.getByRole('button', { name: 'Make the session' }).click()
  await expect(host.getByRole('heading', { name: title, level: 1 })).toBeVisible()
  await expect(host.getByRole('heading', { name: /^Docket/ })).toBeVisible()
}

const attended = /Everybody waits until the bench admits them/

/** Opens the planned session and enters; answers with its guest link. */
async function open(title: string): Promise<string> {
  await host.goto(court.url)
  await host.getByRole('button', { name: `Open the session: ${title}` }).click()
  await host.getByRole('button', { name: 'Enter as host' }).click()
  await expect(host.getByRole('region', { name: 'Board' })).toBeVisible()
  return host.url()
}

test('a recurring session is planned, a contact invited, and recognized by the personal link', async ({ browser }) => {
  await plan('Wardens’ round', 'Recurring', attended)
  await expect(host.getByText('The next 5 times')).toBeVisible()
  await nothingForAxe(host, 'plan')

  await test.step('times that do not exist are refused in a sentence, and nothing typed is lost', async () => {
    await host.getByLabel('Time zone').selectOption('Europe/Berlin')
    await host.getByLabel('Start').fill('2031-03-30T02:30')
    await host.getByRole('button', { name: 'Save the plan' }).click()
    await expect(host.getByText('That time does not exist: the clocks are put forward then')).toBeVisible()
    await expect(host.getByLabel('Title', { exact: true })).toHaveValue('Wardens’ round')
    await host.getByLabel('Start').fill('2031-03-31T09:30')
    await host.getByRole('button', { name: 'Save the plan' }).click()
    await expect(host.getByText('The plan is saved.')).toBeVisible()
  })

  await host.getByRole('button', { name: 'From the contacts' }).click()
  await host.getByLabel('Group', { exact: true }).selectOption('wardens')
  await host.getByRole('checkbox', { name: /Mirembe Achan/ }).check()
  await host.getByRole('button', { name: 'Take 1' }).click()
  await host.getByRole('button', { name: 'Keep the docket' }).click()
  await host.getByRole('button', { name: 'Invite 1 person by mail' }).click()
  await expect(host.getByText('1 message is in the outbox.')).toBeVisible()

  await host.getByRole('link', { name: 'Outbox' }).click()
  await host.getByRole('button', { name: /Invitation: Wardens’ round/ }).click()
  const message = host.getByRole('article', {
    name: 'Invitation: Wardens’ round',
  })
  await expect(message.getByText('BEGIN:VEVENT')).toBeHidden()
  await message.getByText('The calendar file in it').click()
  await expect(message.getByText('RRULE:FREQ=WEEKLY')).toBeVisible()
  await nothingForAxe(host, 'outbox')
  const personal = (await message.getByRole('link', { name: /\/s\// }).getAttribute('href'))!
  const answer = (await message.getByRole('link', { name: /\/answer#/ }).getAttribute('href'))!

  const mirembe = await person(browser, court)
  await mirembe.goto(answer)
  await mirembe.getByRole('button', { name: 'I will come' }).click()
  await expect(mirembe.getByText('Odalys Brandt knows that you will come.')).toBeVisible()
  await nothingForAxe(mirembe, 'answer')
  await mirembe.goto(personal)
  await expect(mirembe.getByText(/opens/i).first()).toBeVisible()
  await nothingForAxe(mirembe, 'not open yet')

  await open('Wardens’ round')
  await mirembe.reload()
  await expect(mirembe.getByLabel('Your name, as others will see it')).toHaveValue('Mirembe Achan')
  await mirembe.getByLabel('Your name, as others will see it').fill('Miri')
  await mirembe.getByRole('button', { name: 'Announce me' }).click()
  await expect(strip(host, 'Miri')).toContainText('sure')
  await host.getByRole('button', { name: 'Open Miri' }).click()
  await expect(host.getByText('came by a personal link', { exact: true })).toBeVisible()
  await nothingForAxe(host, 'person at the door')
  await host.keyboard.press('Escape')
  await host.getByRole('button', { name: 'Admit 1 expected' }).click()
  await expect(mirembe.getByTestId('may')).toBeVisible()

  await test.step('somebody is invited while the session runs', async () => {
    await host.getByRole('button', { name: 'Link' }).click()
    await host.getByLabel('Name', { exact: true }).fill('Teodor Quill')
    await host.getByLabel('E-mail, if the link should be sent').fill('teodor@nowhere')
    await host.getByRole('button', { name: 'Invite', exact: true }).click()
    await expect(host.getByText(/That is no e-mail address/)).toBeVisible()
    await host.getByLabel('E-mail, if the link should be sent').fill('')
    await host.getByRole('button', { name: 'Invite', exact: true }).click()
    await expect(host.getByText('Pass on the personal link yourself.')).toBeVisible()
    await nothingForAxe(host, 'invite')
    await host.getByRole('button', { name: 'Copy the personal link' }).click()
    const teodor = await person(browser, court)
    await teodor.goto(await host.evaluate(() => navigator.clipboard.readText()))
    await teodor.getByRole('button', { name: 'Announce me' }).click()
    await host.keyboard.press('Escape')
    await expect(strip(host, 'Teodor Quill')).toContainText('sure')
  })
})

test('an hour of casework: slots, the forecast, a late notice, back to the lobby, and next', async ({ browser }) => {
  const at = (minutes: number) => new Date(Date.now() + minutes * 60_000).toTimeString().slice(0, 5)
  await plan('Casework', 'Standing', attended)
  await host.getByRole('button', { name: 'Paste text' }).click()
  await host
    .getByLabel('One person a line')
    .fill(`${at(-20)} Gwen Ashdown, 15 min\n${at(-5)} Bartosz Wilk, 15 min (lower reach)\n${at(10)} Ewa Nowak, 15 min\n12345`)
  await host.getByRole('button', { name: 'Read it' }).click()
  await expect(host.getByText('3 understood, 1 not.')).toBeVisible()
  await host.getByRole('button', { name: 'Take 3' }).click()
  await host.getByRole('button', { name: 'Keep the docket' }).click()
  await expect(host.getByText('The docket is kept.')).toBeVisible()

  const link = await open('Casework')
  const [gwen, bartosz, ewa] = [await person(browser, court), await person(browser, court), await person(browser, court)]
  await announce(bartosz, link, 'B. Wilk')
  await announce(gwen, link, 'Gwen Ashdowne')
  await announce(ewa, link, 'ewa nowak')
  await expect(bartosz.getByText(/^Your turn is expected about/)).toBeVisible()

  await host.getByRole('button', { name: 'Next: Gwen Ashdowne' }).click()
  await expect(gwen.getByTestId('may')).toBeVisible()

  // How long of how long the visit is on, and when the next is due.
  await expect(
    host.locator('li', {
      has: host.locator('[data-strip]', { hasText: 'Gwen Ashdowne' }),
    }),
  ).toContainText(/0:\d\d of 15 min/)
  await expect(host.locator('[data-strip]', { hasText: 'Gwen Ashdowne' })).toContainText(/next at \d/)
  await host.getByRole('button', { name: /Door.*2 wait.*minutes late/ }).click()
  await expect(host.getByLabel('Notice to everybody in the lobby')).toHaveValue(/We are running \d+ minutes late/)
  await nothingForAxe(host, 'lobby panel')
  await host.getByRole('button', { name: 'Send to 2 people' }).click()
  await expect(bartosz.getByText(/We are running \d+ minutes late/)).toBeVisible()
  await expect(ewa.getByText(/We are running \d+ minutes late/)).toBeVisible()
  await nothingForAxe(ewa, 'waiting with forecast and notice')

  await host.locator('[data-strip]', { hasText: 'Gwen Ashdowne' }).focus()
  await host.keyboard.press('Space')
  await host.keyboard.press('b')
  await expect(gwen.getByRole('heading', { name: 'You are announced' })).toBeVisible()
  await host.keyboard.press('Control+z')
  await expect(gwen.getByTestId('may')).toBeVisible()

  await host.keyboard.press('Escape')
  await host.keyboard.press('n')
  await expect(gwen.getByRole('heading', { name: 'Your visit is over' })).toBeVisible()
  await expect(bartosz.getByTestId('may')).toBeVisible()
  await nothingForAxe(gwen, 'visit over')
  await host.keyboard.press('Control+z')
  await expect(gwen.getByTestId('may')).toBeVisible()
  await expect(bartosz.getByRole('heading', { name: 'You are announced' })).toBeVisible()

  await host.keyboard.press('n')
  await expect(bartosz.getByTestId('may')).toBeVisible()
  await host.keyboard.press('n')
  await expect(ewa.getByTestId('may')).toBeVisible()
  await expect(bartosz.getByRole('heading', { name: 'Your visit is over' })).toBeVisible()
  await host.getByRole('button', { name: 'Close the visit' }).click()
  await expect(ewa.getByRole('heading', { name: 'Your visit is over' })).toBeVisible()
  await expect(host.getByRole('button', { name: 'Nobody next' })).toBeDisabled()
})

test('a run sheet is planned; passcode and host key open different doors; papers are found inside', async ({ browser }) => {
  await plan('With codes', 'Once', /All walk in/)
  for (const title of ['Questions', 'Reports']) {
    await host.getByRole('button', { name: 'Add an item' }).click()
    await host.getByRole('textbox', { name: /^Item/ }).last().fill(title)
  }
  await host
    .getByRole('listitem', { name: /Reports/ })
    .getByLabel('Minutes')
    .fill('25')
  await expect(host.getByText('35 minutes planned in all')).toBeVisible()
  await host.getByRole('button', { name: 'Move Reports up' }).click()
  await host.getByRole('button', { name: 'Save the plan' }).click()
  await expect(host.getByText('The plan is saved.')).toBeVisible()
  await host.getByRole('button', { name: 'Make a passcode' }).click()
  await host.getByRole('button', { name: 'Make a host key' }).click()
  const passcode = (await host.locator('[data-code="passcode"]').textContent())!.trim()
  const key = (await host.locator('[data-code="host-key"]').textContent())!.trim()
  await nothingForAxe(host, 'codes')
  await host.getByLabel('Add a paper').setInputFiles({
    name: 'weir.html',
    mimeType: 'text/html',
    buffer: Buffer.from('<p>'),
  })
  await expect(host.getByText(/Such a file cannot be added/)).toBeVisible()
  await host.getByLabel('Add a paper').setInputFiles({
    name: 'weir.txt',
    mimeType: 'text/plain',
    buffer: Buffer.from('The weir holds.'),
  })
  await expect(host.getByText('weir.txt')).toBeVisible()
  await host.reload()
  await expect(host.locator('[data-code]')).toHaveCount(0)

  const link = await open('With codes')
  const [nia, jun] = [await person(browser, court), await person(browser, court)]
  for (const [page, name, code] of [
    [nia, 'Nia Okafor', passcode],
    [jun, 'Jun Takeda', key],
  ] as const) {
    await page.goto(link)
    await page.getByLabel('Your name, as others will see it').fill(name)
    await page.getByLabel(/^Passcode/).fill('wrong7')
    await page.getByRole('button', { name: 'Walk in' }).click()
    await expect(page.getByText(/That passcode is wrong/)).toBeVisible()
    await page.getByLabel(/^Passcode/).fill(code)
    await page.getByRole('button', { name: 'Walk in' }).click()
  }
  await expect(jun.getByRole('region', { name: 'Board' })).toBeVisible()
  await expect(nia.getByTestId('may')).toBeVisible()
  await jun.getByRole('button', { name: 'Run sheet' }).click()
  await jun.getByRole('button', { name: 'Next item: Reports' }).click()
  await expect(nia.getByText('1/2 Reports')).toBeVisible()
  await nia.getByRole('button', { name: 'Papers and files 1 paper' }).click()
  const download = nia.waitForEvent('download')
  await nia.getByRole('link', { name: 'weir.txt' }).click()
  expect((await download).suggestedFilename()).toBe('weir.txt')
  await nothingForAxe(nia, 'papers inside')
})

test('contacts are imported with a preview that names the bad rows', async () => {
  await host.goto(`${court.url}/contacts`)
  const file =
    'name;email;groups\nRuna Halvari;runa@larkmoor.example.org;upper reach\nNo Mail;at-nowhere;\n;lost@larkmoor.example.org;\n'
  await host.getByLabel('Import vCard or CSV').setInputFiles({
    name: 'people.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(file),
  })
  await expect(host.getByText('New: 1. Changed: 0. Already there: 0. Skipped: 2.')).toBeVisible()
  await expect(host.getByText(/Line 3/)).toBeVisible()
  await nothingForAxe(host, 'contacts import')
  await host.getByRole('button', { name: 'Import 1 contact' }).click()
  await expect(host.getByRole('row', { name: /runa@larkmoor/ })).toBeVisible()
  await host.goto(court.url)
  await expect(host.getByRole('heading', { name: 'Today' })).toBeVisible()
  await nothingForAxe(host, 'today with slots')

  // Whoever is signed out is led to sign in, and back to the page that was asked for.
  await host.context().clearCookies()
  await host.goto(`${court.url}/contacts`)
  await signIn(host, 'Contacts')
})

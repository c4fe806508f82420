import { expect, test, type Browser, type Page } from '@playwright/test'
import { createHmac } from 'node:crypto'
import { Court, nothingForAxe, openNow, person } from './court'

const good = 'lantern ferry heron'

/** A house that nobody keeps yet, without the demo. */
const emptyHouse = (settings: Record<string, string> = {}) => Court.start(0, { 'Demo:Load': 'false', ...settings })

const setUpCode = (court: Court) => /Set-up code: (\w+)/.exec(court.said)![1]!

async function makesTheFirstAccount(page: Page, court: Court) {
  await page.getByLabel('Set-up code').fill(setUpCode(court))
  await page.getByLabel('Your name').fill('Ilse Vantorre')
  await page.getByLabel('E-mail').fill('ilse@larkmoor.example.org')
  await page.getByLabel('New password').fill(good)
  await page.getByRole('button', { name: 'Make the account' }).click()
  await expect(page.getByRole('heading', { name: 'Today', level: 1 })).toBeVisible()
}

/** The keeper invites by a link, and somebody comes by it in a browser of their own. */
async function joins(browser: Browser, court: Court, keeper: Page, name: string): Promise<Page> {
  await keeper.getByRole('link', { name: 'Hosts' }).click()
  await keeper.getByLabel('E-mail').fill(addressOf(name))
  await keeper.getByLabel('Name, if you know it').fill(name)
  await keeper.getByRole('button', { name: 'Invite', exact: true }).click()
  const link = (await keeper.locator('[data-link]').textContent())!.trim()
  const page = await person(browser, court)
  await page.goto(link)
  await expect(page.getByLabel('Your name')).toHaveValue(name)
  await page.getByLabel('New password').fill(good)
  await page.getByRole('button', { name: 'Make the account' }).click()
  await expect(page.getByRole('heading', { name: 'Today', level: 1 })).toBeVisible()
  return page
}

const addressOf = (name: string) => `${name.split(' ')[0]!.toLowerCase()}@larkmoor.example.org`

async function typesPassword(page: Page, name: string, password = good) {
  await page.getByLabel('E-mail').fill(addressOf(name))
  await page.getByLabel('Password').fill(password)
  await page.getByRole('button', { name: 'Sign in', exact: true }).click()
}

/** RFC 6238, from the RFC. */
function codeOf(key: string, at = Date.now()): string {
  const bits = [...key.replaceAll(' ', '')]
    .map((letter) => 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567'.indexOf(letter).toString(2).padStart(5, '0'))
    .join('')
  const secret = Buffer.from(bits.match(/.{8}/g)!.map((byte) => parseInt(byte, 2)))
  const step = Buffer.alloc(8)
  step.writeBigUInt64BE(BigInt(Math.floor(at / 30_000)))
  const hash = createHmac('sha1', secret).update(step).digest()
  return String((hash.readUInt32BE(hash[19]! & 0xf) & 0x7fffffff) % 1_000_000).padStart(6, '0')
}

test('a house begins with the printed code, a host joins by a link, and both are looked after', async ({ browser }) => {
  const court = await emptyHouse()
  const keeper = await person(browser, court)

  await test.step('the first page asks for the code, and what is wrong is said beside its field', async () => {
    await expect(keeper.getByRole('heading', { name: 'Make the first account' })).toBeVisible()
    await keeper.getByLabel('Set-up code').fill('not the code')
    await keeper.getByLabel('Your name').fill('Ilse Vantorre')
    await keeper.getByLabel('E-mail').fill('ilse@larkmoor.example.org')
    await keeper.getByLabel('New password').fill('password12')
    await expect(keeper.getByText('Too easy')).toBeVisible()
    await keeper.getByRole('button', { name: 'Make the account' }).click()
    await expect(keeper.getByText('That is not the set-up code of this start.')).toBeVisible()
    await expect(keeper.getByLabel('Your name')).toHaveValue('Ilse Vantorre')
    await nothingForAxe(keeper, 'set-up')
    await makesTheFirstAccount(keeper, court)
  })

  const teodor = await joins(browser, court, keeper, 'Teodor Quill')
  await test.step('the keeper sees who hosts; a suspended one is out at once, and says why', async () => {
    await keeper.reload()
    await expect(keeper.getByText('teodor@larkmoor.example.org', { exact: false }).first()).toBeVisible()
    await nothingForAxe(keeper, 'hosts')
    await keeper.getByRole('button', { name: 'Suspend: Teodor Quill' }).click()
    await expect(keeper.getByRole('button', { name: 'Let in again: Teodor Quill' })).toBeVisible()
    await teodor.goto(court.url)
    await typesPassword(teodor, 'Teodor')
    await expect(teodor.getByText('This account is suspended.')).toBeVisible()
    await keeper.getByRole('button', { name: 'Let in again: Teodor Quill' }).click()
    await expect(keeper.getByRole('button', { name: 'Suspend: Teodor Quill' })).toBeVisible()
    await typesPassword(teodor, 'Teodor')
    await expect(teodor.getByRole('heading', { name: 'Today', level: 1 })).toBeVisible()
    await expect(teodor.getByRole('link', { name: 'Hosts' })).toHaveCount(0)
    await keeper.getByRole('button', { name: 'No longer keeper: Ilse Vantorre' }).click()
    await expect(keeper.getByText('Somebody has to keep the house.')).toBeVisible()
  })

  await test.step('a co-owner finds the session, opens it, and leads', async () => {
    await keeper.goto(`${court.url}/plan/new`)
    await keeper.getByLabel('Title', { exact: true }).fill('Ours')
    await keeper.getByRole('radio', { name: 'Standing' }).click()
    await keeper.getByRole('button', { name: 'Make the session' }).click()
    await keeper.getByLabel('Somebody who hosts here').selectOption('Teodor Quill')
    await keeper.getByRole('button', { name: 'Add as co-owner' }).click()
    await expect(keeper.getByRole('button', { name: 'Make owner: Teodor Quill' })).toBeVisible()
    await teodor.reload()
    await expect(teodor.getByText('of Ilse Vantorre')).toBeVisible()
    await teodor.getByRole('button', { name: 'Open the session: Ours' }).click()
    await teodor.getByRole('button', { name: 'Enter as host' }).click()
    await expect(teodor.getByRole('region', { name: 'Board' })).toBeVisible()
  })

  await test.step('a forgotten password is replaced by the message in the outbox, and everybody is signed out', async () => {
    const forgetful = await person(browser, court)
    await forgetful.getByRole('link', { name: 'Forgotten password' }).click()
    await forgetful.getByLabel('E-mail').fill('teodor@larkmoor.example.org')
    await forgetful.getByRole('button', { name: 'Send the message' }).click()
    await expect(forgetful.getByText('a message is on its way')).toBeVisible()
    await keeper.getByRole('link', { name: 'Outbox' }).click()
    await keeper.getByRole('button', { name: /A new password/ }).click()
    const link = (await keeper.getByRole('link', { name: /\/reset#/ }).getAttribute('href'))!
    await forgetful.goto(link)
    await expect(forgetful).toHaveURL(/\/reset$/)
    await nothingForAxe(forgetful, 'reset')
    await forgetful.getByLabel('New password').fill('kettle moss quarry')
    await forgetful.getByRole('button', { name: 'Keep the new password' }).click()
    await expect(forgetful.getByText('Your password is changed')).toBeVisible()
    await typesPassword(forgetful, 'Teodor', 'kettle moss quarry')
    await expect(forgetful.getByRole('heading', { name: 'Today', level: 1 })).toBeVisible()
    // The bench in the other browser is left with the sign-in.
    await expect(teodor.getByRole('region', { name: 'Board' })).toBeHidden()
    await forgetful.goto(link)
    await forgetful.getByLabel('New password').fill(good)
    await forgetful.getByRole('button', { name: 'Keep the new password' }).click()
    await expect(
      forgetful.getByRole('heading', {
        name: 'This link does not work any more',
      }),
    ).toBeVisible()
  })
  await court.stop()
})

test('a second factor, a passkey, signing out elsewhere, and settings that come along', async ({ browser }) => {
  const court = await emptyHouse()
  const page = await person(browser, court)
  await makesTheFirstAccount(page, court)
  await page.getByRole('link', { name: 'Ilse Vantorre' }).click()
  let key = ''
  let recovery = ''

  await test.step('the second step is turned on by a code of the key that is shown', async () => {
    await page.getByRole('button', { name: 'Turn on' }).click()
    await expect(page.getByRole('img', { name: 'The key as a QR code' })).toBeVisible()
    key = (await page.locator('code').first().textContent())!
    await page.getByLabel('Code, 6 digits').fill('123456')
    await page.getByRole('button', { name: 'Confirm', exact: true }).click()
    await expect(page.getByText('That code is wrong')).toBeVisible()
    await page.getByLabel('Code, 6 digits').fill(codeOf(key, Date.now() - 30_000))
    await page.getByRole('button', { name: 'Confirm', exact: true }).click()
    recovery = (await page.locator('[data-recovery] code').first().textContent())!
    await nothingForAxe(page, 'account')
  })

  await test.step('a passkey of this device is made', async () => {
    const devices = await page.context().newCDPSession(page)
    await devices.send('WebAuthn.enable')
    await devices.send('WebAuthn.addVirtualAuthenticator', {
      options: {
        protocol: 'ctap2',
        transport: 'internal',
        hasResidentKey: true,
        hasUserVerification: true,
        isUserVerified: true,
        automaticPresenceSimulation: true,
      },
    })
    await page.getByLabel('Name of the device').fill('Office laptop')
    await page.getByRole('button', { name: 'Add this device' }).click()
    await expect(page.getByRole('button', { name: 'Remove Office laptop' })).toBeVisible()
  })

  const elsewhere = await person(browser, court)
  await test.step('elsewhere the password alone opens nothing; a code or a recovery code does', async () => {
    await typesPassword(elsewhere, 'Ilse')
    await expect(elsewhere.getByRole('heading', { name: 'The second step' })).toBeVisible()
    await elsewhere.getByLabel('Code, 6 digits').fill('000000')
    await elsewhere.getByRole('button', { name: 'Sign in', exact: true }).click()
    await expect(elsewhere.getByText('That code is wrong')).toBeVisible()
    await elsewhere.getByLabel('Code, 6 digits').fill(codeOf(key))
    await elsewhere.getByRole('button', { name: 'Sign in', exact: true }).click()
    await expect(elsewhere.getByRole('heading', { name: 'Today', level: 1 })).toBeVisible()
  })

  await test.step('settings that are chosen here are there as well', async () => {
    await page.getByRole('button', { name: 'Settings' }).click()
    await page.getByRole('radio', { name: 'Dark' }).click()
    await page.getByLabel('Size of the text').selectOption('115')
    await expect
      .poll(async () => page.evaluate(async () => ((await (await fetch('/api/me')).json()) as { settings: string }).settings))
      .toContain('"textSize":115')
    await elsewhere.reload()
    await expect(elsewhere.locator('html')).toHaveAttribute('data-theme', 'dark')
  })

  await test.step('the bench elsewhere ends when it is signed out from here', async () => {
    await openNow(elsewhere, 'Left behind')
    await page.reload()
    await page.getByRole('button', { name: 'Sign out all others' }).click()
    await expect(elsewhere.getByRole('region', { name: 'Board' })).toBeHidden()
    await elsewhere.goto(court.url)
    await expect(elsewhere.getByRole('heading', { name: 'Sign in to host' })).toBeVisible()
    await typesPassword(elsewhere, 'Ilse')
    await elsewhere.getByRole('button', { name: 'Use a recovery code' }).click()
    await elsewhere.getByLabel('Recovery code').fill(recovery)
    await elsewhere.getByRole('button', { name: 'Sign in', exact: true }).click()
    await expect(elsewhere.getByRole('heading', { name: 'Today', level: 1 })).toBeVisible()
  })

  await test.step('signing out forgets the settings; the passkey signs in again without a password, and they are back', async () => {
    await page.getByRole('button', { name: 'Sign out', exact: true }).first().click()
    await expect(page.getByRole('heading', { name: 'Sign in to host' })).toBeVisible()
    await expect(page.locator('html')).not.toHaveAttribute('data-theme', 'dark')
    await page.getByRole('button', { name: 'Sign in with a passkey' }).click()
    await expect(page.getByRole('heading', { name: 'Today', level: 1 })).toBeVisible()
    await expect(page.locator('html')).toHaveAttribute('data-theme', 'dark')
  })
  await court.stop()
})

test('the keeper sees the house, has it backed up while people talk, and erases somebody', async ({ browser }) => {
  const court = await emptyHouse({
    'Backup:Folder': `${process.env.TMPDIR ?? '/tmp'}/hold-court-backup-${process.pid}`,
  })
  const keeper = await person(browser, court)
  await makesTheFirstAccount(keeper, court)
  await keeper.getByRole('link', { name: 'Contacts' }).click()
  await keeper.getByRole('button', { name: 'Add a contact' }).click()
  await keeper.getByLabel('Name', { exact: true }).fill('Nia Okafor')
  await keeper.getByLabel('E-mail').fill('nia@larkmoor.example.org')
  await keeper.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(keeper.getByRole('cell', { name: 'nia@larkmoor.example.org' })).toBeVisible()

  const other = await keeper.context().newPage()
  await other.goto(court.url)
  await openNow(other, 'Talking meanwhile')
  await keeper.getByRole('link', { name: 'House' }).click()
  await expect(keeper.getByText('Talking meanwhile')).toBeVisible()
  await expect(keeper.getByText('1 inside, 0 waiting')).toBeVisible()
  await nothingForAxe(keeper, 'house')
  await keeper.getByRole('button', { name: 'Back up now' }).click()
  await expect(keeper.getByText('Keep one elsewhere, too.')).toBeVisible()
  await expect(other.getByRole('region', { name: 'Board' })).toBeVisible()

  await keeper.getByLabel('E-mail').fill('nia@larkmoor.example.org')
  await keeper.getByRole('button', { name: 'Look what there is' }).click()
  await expect(keeper.getByText('There are 1 contact')).toBeVisible()
  await keeper.getByRole('button', { name: 'Erase for good' }).click()
  await expect(keeper.getByText('Erased: 1 contact')).toBeVisible()
  await keeper.getByRole('link', { name: 'Contacts' }).click()
  await expect(keeper.getByText('nia@larkmoor.example.org')).toHaveCount(0)
  await court.stop()
})

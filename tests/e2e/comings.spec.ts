import { expect, test, type Page } from '@playwright/test'
import { announce, Court, nothingForAxe, openNow, person, signIn, strip } from './court'

let court: Court
let host: Page
let link: string
test.beforeAll(async ({ browser }) => {
  court = await Court.start()
  host = await person(browser, court)
  await signIn(host)
  link = await openNow(host, 'Comings and goings')
})
test.afterAll(() => court.stop())

const select = async (name: string) => {
  await host.keyboard.press('Escape')
  await strip(host, name).locator('[data-strip]').click()
}
const inLobby = (page: Page) => expect(page.getByRole('heading', { name: 'You are announced' })).toBeVisible()
const isInside = (page: Page) => expect(page.getByTestId('may')).toBeVisible()

test('declined without words, a guest goes back to the door under a better name and is admitted as a presenter', async ({
  browser,
}) => {
  const guest = await person(browser, court)
  await announce(guest, link, 'Galaxy 12')
  await inLobby(guest)
  await select('Galaxy 12')
  await host.keyboard.press('d')
  await host.getByRole('button', { name: 'Decline', exact: true }).click()
  await expect(guest.getByRole('heading', { name: 'You were not admitted' })).toBeVisible()
  await guest.getByRole('button', { name: 'Back to the door' }).click()
  await guest.getByLabel('Your name, as others will see it').fill('Gwen Ashdown')
  await guest.getByRole('button', { name: 'Announce me' }).click()
  await inLobby(guest)
  await select('Gwen Ashdown')
  await host.getByRole('button', { name: 'Admit as…' }).click()
  await host.getByRole('button', { name: 'Admit as presenter' }).click()
  await isInside(guest)
  await expect(guest.getByText('you, presenter')).toBeVisible()
  await guest.context().close()
})

test('removed with the right to come back, a guest reads it, announces again, and is looked at before coming in', async ({
  browser,
}) => {
  const guest = await person(browser, court)
  await announce(guest, link, 'Bartosz Wilk')
  await host.getByRole('button', { name: 'Admit Bartosz Wilk' }).click()
  await isInside(guest)
  await select('Bartosz Wilk')
  await host.keyboard.press('Delete')
  await nothingForAxe(host, 'remove panel')
  await host.getByRole('button', { name: 'Remove; may come back' }).click()
  await expect(guest.getByRole('heading', { name: 'You were removed' })).toBeVisible()
  await nothingForAxe(guest, 'removed, may come back')
  await guest.getByRole('button', { name: 'Back to the door' }).click()
  await guest.getByRole('button', { name: 'Announce me' }).click()
  await inLobby(guest)
  await host.getByRole('button', { name: 'Admit Bartosz Wilk' }).click()
  await isInside(guest)
  await guest.context().close()
})

test('who leaves keeps the seat and role, and comes back in with one click', async ({ browser }) => {
  const guest = await person(browser, court)
  await announce(guest, link, 'Ilse Vantorre')
  await inLobby(guest)
  await select('Ilse Vantorre')
  await host.getByRole('button', { name: 'Admit as…' }).click()
  await host.getByRole('button', { name: 'Admit as presenter' }).click()
  await isInside(guest)
  await guest.getByRole('button', { name: 'Leave' }).click()
  await expect(guest.getByRole('heading', { name: 'You left' })).toBeVisible()
  await host.getByRole('button', { name: /^Gone/ }).click()
  await expect(strip(host, 'Ilse Vantorre')).toContainText('left')
  await nothingForAxe(guest, 'left')
  await guest.getByRole('button', { name: 'Come back in' }).click()
  await expect(guest.getByText('you, presenter')).toBeVisible()
  await guest.context().close()
})

test('a locked door may hold late people in the lobby; they come in when the bench looks at them', async ({ browser }) => {
  await host.keyboard.press('Escape')
  await host.keyboard.press('l')
  await host.getByRole('radio', { name: 'Late people wait in the lobby' }).click()
  await host.getByRole('button', { name: 'Lock the door' }).click()
  await host.keyboard.press('Escape')
  const late = await person(browser, court)
  await late.goto(link)
  await expect(late.getByText('The door is locked. Late people wait in the lobby.')).toBeVisible()
  await announce(late, link, 'Oyelaran Adewale')
  await inLobby(late)
  await host.getByRole('button', { name: 'Admit Oyelaran Adewale' }).click()
  await isInside(late)
  await host.getByRole('button', { name: /Take back: admitting Oyelaran/ }).click()
  await inLobby(late)
  await host.getByRole('button', { name: /Take back: locking the door/ }).click()
  await expect(host.getByRole('button', { name: 'Door attended' })).toBeVisible()
  await late.context().close()
})

test('a link that leads nowhere, an expired cookie, and a browser that lacks what is needed are each told in a sentence', async ({
  browser,
}) => {
  const lost = await person(browser, court)
  await lost.goto(`${court.url}/s/AAAAAAAAAAAAAAAAAAAAAA`)
  await expect(lost.getByText('This link leads to no session.')).toBeVisible()
  await nothingForAxe(lost, 'no such link')

  await announce(lost, link, 'Marise Delacroix')
  await inLobby(lost)
  await lost.context().clearCookies()
  await lost.reload()
  await expect(lost.getByLabel('Your name, as others will see it')).toBeVisible()

  const old = await person(browser, court)
  await old.addInitScript(() => Reflect.deleteProperty(window, 'VideoEncoder'))
  await old.goto(link)
  await expect(old.getByText('This browser cannot send or show pictures and voices here.')).toBeVisible()
  await nothingForAxe(old, 'unsupported')
  await old.context().close()
  await lost.context().close()
})

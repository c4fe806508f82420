import { expect, test, type Page } from '@playwright/test'
import { announce, courtWithHost, openNow, person, type Court } from './court'

// What fails while a page is drawn stays where it failed.

test.describe.configure({ mode: 'serial' })

let court: Court
let host: Page
let link: string

test.beforeAll(async ({ browser }) => {
  ;[court, host] = await courtWithHost(browser)
})
test.afterAll(() => court.stop())

const end = '\u001e'

/** The live line brings what the page cannot draw: what is said of the polls is missing. */
async function spoil(page: Page, change: (joined: { build: string; view: { sitting: Record<string, unknown> } }) => void) {
  await page.routeWebSocket(/\/live/, (socket) => {
    const server = socket.connectToServer()
    server.onMessage((message) =>
      socket.send(
        String(message)
          .split(end)
          .map((part) => {
            if (!part.includes('"target":"Joined"')) return part
            const joined = JSON.parse(part)
            change(joined.arguments[0])
            return JSON.stringify(joined)
          })
          .join(end),
      ),
    )
  })
}

const side = (page: Page) => page.getByRole('complementary', { name: 'Beside the picture' })

test('one card or side that cannot be drawn leaves all else as it is, and is counted for the keeper', async () => {
  await spoil(host, ({ view }) => {
    view.sitting.polls = { open: null, over: 5, prepared: null }
  })
  link = await openNow(host, 'Flood season')
  await host.getByRole('button', { name: 'Polls', exact: true }).click()
  await expect(side(host).getByRole('alert')).toContainText('This side could not be drawn.')
  await side(host).getByRole('button', { name: 'Try again' }).click()
  await expect(side(host).getByRole('alert'), 'it is no better').toContainText('could not be drawn')
  await host.getByRole('button', { name: 'Chat', exact: true }).click()
  await expect(side(host).getByRole('alert')).toBeHidden()
  await side(host).getByRole('textbox', { name: /Message|Write/ }).fill('The weir holds')
  await host.keyboard.press('Enter')
  await expect(side(host)).toContainText('The weir holds')
  await expect(host.getByRole('region', { name: /Seated|Board/ }).first()).toBeVisible()
  await host.unrouteAll()
})

test('a page of an older build says so, and loads itself anew when one neither speaks nor writes', async ({ browser }) => {
  const nia = await person(browser, court)
  let joins = 0
  await spoil(nia, (joined) => {
    joins++
    if (joins === 2) joined.build = 'another'
  })
  await announce(nia, link, 'Nia Okafor')
  await expect(nia.getByText('A newer version of this page')).toBeHidden()
  await host.getByRole('button', { name: /^Admit/ }).first().click()
  await expect(nia.getByTestId('may')).toBeVisible()
  await nia.getByRole('textbox', { name: /Message|Write/ }).fill('I am writing')
  await court.killAndRestart()
  await expect(nia.getByText('A newer version of this page')).toBeVisible()
  await nia.waitForTimeout(10_000)
  await expect(nia.getByRole('textbox', { name: /Message|Write/ }), 'not while one writes').toHaveValue('I am writing')
  const loaded = nia.waitForEvent('load', { timeout: 30_000 })
  await nia.getByRole('textbox', { name: /Message|Write/ }).fill('')
  await loaded
  await expect(nia.getByTestId('may')).toBeVisible()
  await expect(nia.getByText('A newer version of this page')).toBeHidden()
})

test('a part that is not there any more after an upgrade is said, and the page can be loaded anew', async ({ browser }) => {
  const page = await person(browser, court)
  await page.route(/assets\/SignIn/, (route) => route.abort())
  await page.goto(`${court.url}/sign-in`)
  await expect(page.getByRole('heading', { name: 'A part of this page could not be fetched' })).toBeVisible()
  await page.unrouteAll()
  await page.getByRole('button', { name: 'Load the page anew' }).click()
  await expect(page.getByLabel('E-mail')).toBeVisible()
})

import { AxeBuilder } from '@axe-core/playwright'
import { expect, type Browser, type BrowserContext, type Page } from '@playwright/test'
import { spawn, type ChildProcess } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { connect, createServer, type Server, type Socket } from 'node:net'
import { tmpdir } from 'node:os'
import path from 'node:path'

const root = path.resolve(import.meta.dirname, '../..')
const program = process.env.HOLD_COURT_DLL ?? path.join(root, 'src/HoldCourt.Server/bin/Debug/net10.0/HoldCourt.Server.dll')

/** People at a house, each with a browser of their own. */
export class Visits {
  readonly visitors: BrowserContext[] = []

  /** Errors of their pages that nothing caught. They fail the last test before they go. */
  readonly errors: string[] = []
  constructor(readonly port: number) {}

  get url() {
    return `http://localhost:${this.port}`
  }

  async stop() {
    for (const visitor of this.visitors) await visitor.close()
    expect(this.errors, 'errors of pages').toEqual([])
  }
}

/** A server of its own on a free port, with a data folder of its own; it can be killed and started again. */
export class Court extends Visits {
  private process: ChildProcess | null = null
  private readonly data = mkdtempSync(path.join(tmpdir(), 'hold-court-'))
  private constructor(
    port: number,
    private readonly extras: number,
    private readonly settings: Record<string, string>,
  ) {
    super(port)
  }

  /** What the server has printed since it was started. */
  said = ''

  /**
   * @param extras Simulated people besides those of the demo's own sessions.
   * @param settings Other than the usual ones.
   */
  static async start(extras = 0, settings: Record<string, string> = {}): Promise<Court> {
    const court = new Court(await freePort(), extras, settings)
    await court.run()
    return court
  }

  private async run() {
    const options = {
      urls: this.url,
      'Data:Folder': this.data,
      'Demo:Load': 'true',
      'Extras:Count': String(this.extras),
      ...this.settings,
    }
    const child = spawn('dotnet', [program, ...Object.entries(options).flatMap(([key, value]) => [`--${key}`, value])], {
      stdio: ['ignore', 'pipe', 'pipe'],
    })
    this.process = child
    this.said = ''
    await new Promise<void>((ready, fail) => {
      const hear = (text: Buffer) => {
        this.said += text.toString()
        // All of what stands after it is there a moment later.
        if (this.said.includes('Hold Court is ready at')) setTimeout(ready, 100)
      }
      child.stdout.on('data', hear)
      child.stderr.on('data', hear)
      child.on('exit', (code) => fail(new Error(`The server ended with ${code}:\n${this.said}`)))
    })
  }

  /** kill -9, and up again on the same port and data. */
  async killAndRestart() {
    const old = this.process!
    const gone = new Promise((exit) => old.once('exit', exit))
    old.removeAllListeners('exit')
    old.once('exit', () => undefined)
    old.kill('SIGKILL')
    await Promise.race([gone, new Promise((wait) => setTimeout(wait, 2000))])
    await this.run()
  }

  /** For the end of everything, which waits for nothing. */
  kill() {
    this.process?.kill('SIGKILL')
    rmSync(this.data, { recursive: true, force: true })
  }

  override async stop() {
    this.process?.removeAllListeners('exit')
    const exited = new Promise((exit) => this.process?.once('exit', exit))
    for (const visitor of this.visitors) await visitor.close()
    this.process?.kill('SIGTERM')
    await exited
    rmSync(this.data, { recursive: true, force: true })
    expect(this.errors, 'errors of pages').toEqual([])
  }
}

/** A line to the court that can break: a plain TCP proxy with a port of its own. */
export class Line {
  private readonly sockets = new Map<Socket, string>()
  private isDown = false
  private constructor(
    readonly port: number,
    private readonly server: Server,
  ) {}

  static async to(court: Visits): Promise<Line> {
    const port = await freePort()
    const server = createServer()
    const line = new Line(port, server)
    server.on('connection', (near) => {
      if (line.isDown) return near.destroy()
      const far = connect(court.port, 'localhost')
      line.sockets.set(near, '')
      near.once('data', (bytes: Buffer) => line.sockets.set(near, bytes.toString('latin1').split(' ')[1] ?? ''))
      near.pipe(far).pipe(near)
      for (const [one, other] of [[near, far] as const, [far, near] as const]) {
        one.on('error', () => undefined)
        one.on('close', () => {
          other.destroy()
          line.sockets.delete(near)
        })
      }
    })
    await new Promise<void>((listening) => server.listen(port, () => listening()))
    return line
  }

  get url() {
    return `http://localhost:${this.port}`
  }

  /** Cuts the connections that asked for this path; new ones go through. */
  cut(path: string) {
    for (const [socket, asked] of this.sockets) if (asked.startsWith(path)) socket.destroy()
  }

  set down(down: boolean) {
    this.isDown = down
    if (down) this.cut('')
  }

  async close() {
    this.down = true
    await new Promise((closed) => this.server.close(closed))
  }
}

function freePort(): Promise<number> {
  return new Promise((found) => {
    const probe = createServer().listen(0, () => {
      const address = probe.address()
      probe.close(() => found(typeof address === 'object' && address ? address.port : 0))
    })
  })
}

/** A person with a browser of their own. */
export async function person(browser: Browser, court: Visits, cookies: Cookies = []): Promise<Page> {
  const context = await browser.newContext({ storageState: { cookies: [...cookies], origins: [] } })
  court.visitors.push(context)
  const page = await context.newPage()
  page.on('pageerror', (error) => court.errors.push(`${page.url()}: ${error.stack ?? error.message}`))
  await page.addInitScript(() => sessionStorage.setItem('profile', 'light'))
  await page.goto(court.url)
  return page
}

export async function signIn(page: Page, back = 'Today') {
  await page.getByLabel('E-mail').fill('odalys@larkmoor.example.org')
  await page.getByLabel('Password').fill('heron-ferry-lantern')
  await page.getByRole('button', { name: 'Sign in', exact: true }).click()
  await expect(page.getByRole('heading', { name: back, level: 1 })).toBeVisible()
}

/**
 * A court of its own with the demo's host signed in, on Today.
 * @param extras Simulated people besides those of the demo's own sessions.
 */
export async function courtWithHost(browser: Browser, extras = 0): Promise<[Court, Page]> {
  const court = await Court.start(extras)
  const host = await person(browser, court)
  await signIn(host)
  return [court, host]
}

type Cookies = Awaited<ReturnType<BrowserContext['cookies']>>

/** The house of this worker: whatever opens a session of its own, and neither kills the house nor sets it otherwise, shares it. */
let shared: { court: Court; host: Cookies } | undefined
process.once('exit', () => shared?.court.kill())

/** The demo's host on Today, in a house that other files use as well; as if they had never chosen anything there. */
export async function visitsWithHost(browser: Browser): Promise<[Visits, Page]> {
  if (!shared) {
    const court = await Court.start()
    const first = await person(browser, court)
    await signIn(first)
    shared = { court, host: await first.context().cookies() }
    await first.context().close()
  }
  const visits = new Visits(shared.court.port)
  const host = await person(browser, visits, shared.host)
  const { token } = (await (await host.request.get(`${visits.url}/api/me`)).json()) as { token: string }
  const usual = { settings: '{}', language: 'en' }
  await expect(
    await host.request.put(`${visits.url}/api/account/settings`, { headers: { 'X-Csrf': token }, data: usual }),
  ).toBeOK()
  await host.goto(visits.url)
  await expect(host.getByRole('heading', { name: 'Today', level: 1 })).toBeVisible()
  return [visits, host]
}

/** Pictures are drawn, coded and decoded in software here, so they are on where a test looks at them. */
interface Entry {
  camera?: boolean
  microphone?: boolean
}

export async function choose(page: Page, { camera = false, microphone = false }: Entry) {
  await page.getByLabel('Enter with camera on').setChecked(camera)
  await page.getByLabel('Enter with microphone on').setChecked(microphone)
}

/** The host opens a session at once and enters; answers with the guest link. */
export async function openNow(page: Page, title: string, entry: Entry = {}): Promise<string> {
  await page.getByLabel('Title of the session').fill(title)
  await page.getByRole('button', { name: 'Open a session now' }).click()
  await choose(page, entry)
  await page.getByRole('button', { name: 'Enter as host' }).click()
  await expect(page.getByRole('region', { name: 'Board' })).toBeVisible()
  return page.url()
}

export async function announce(page: Page, link: string, name: string, entry: Entry = {}) {
  await page.goto(link)
  await page.getByLabel('Your name, as others will see it').fill(name)
  await choose(page, entry)
  await page.getByRole('button', { name: /Announce me|Walk in/ }).click()
}

export const strip = (page: Page, name: string) =>
  page.getByRole('listitem').filter({ has: page.locator('[data-strip]', { hasText: name }) })

/** Pictures decoded so far of somebody at this page. */
export const pictures = (page: Page, name: string) =>
  page.evaluate((who) => {
    const tile = [...document.querySelectorAll('[data-seat]')].find((figure) => figure.textContent?.includes(who))
    return window.holdCourtDiagnostics!().pictures[Number(tile?.getAttribute('data-seat'))] ?? 0
  }, name)

/** The loudest that was played at this page over a while, of everybody. */
export async function loudness(page: Page, milliseconds = 2500): Promise<number> {
  return page.evaluate(async (span) => {
    let loudest = 0
    for (const end = performance.now() + span; performance.now() < end;) {
      loudest = Math.max(loudest, ...Object.values(window.holdCourtDiagnostics!().played))
      await new Promise((wait) => setTimeout(wait, 50))
    }
    return loudest
  }, milliseconds)
}

export const audible = 0.01

/** What has been looked at: screens, and how elements look that stood in them. */
const seenScreens = new Set<string>()
const seenLooks = new Set<string>()

/**
 * Marks the regions in which something is new, by its kind, state and classes; gives back how all looks, and whether the
 * whole screen is new.
 */
const findNew = (page: Page) =>
  page.evaluate(
    ([screens, looks]) => {
      const seen = new Set(looks)
      const region =
        'section, aside, nav, header, footer, form, dialog, [role=dialog], [role=region], [role=tabpanel], [role=menu]'
      const states = ['role', 'class', 'type', 'disabled'].concat(
        ['disabled', 'pressed', 'selected', 'expanded', 'checked', 'current'].map((state) => `aria-${state}`),
      )
      const look = (one: Element) => [one.tagName, ...states.map((name) => one.getAttribute(name) ?? '')].join('|')
      const attributes = [...document.documentElement.attributes].map((one) => one.value)
      const theme = `${matchMedia('(prefers-color-scheme: dark)').matches} ${attributes.join(' ')}`
      const screen = `${theme} ${innerWidth} ${location.pathname.replace(/\/[\w-]{16,}/g, '/…')}`
      const found = new Set<string>()
      let isOutside = false
      for (const one of document.body.querySelectorAll('*')) {
        const own = `${theme} ${one.parentElement ? look(one.parentElement) : ''} > ${look(one)}`
        found.add(own)
        if (seen.has(own)) continue
        const place = one.closest(region)
        if (place) place.setAttribute('data-new', '')
        else isOutside = true
      }
      return { screen, isNew: isOutside || !screens.includes(screen), looks: [...found].filter((own) => !seen.has(own)) }
    },
    [[...seenScreens], [...seenLooks]] as const,
  )

/**
 * Nothing that keeps people out, in what no test of this run has looked at before: the whole of a new screen, and new parts
 * of a known one.
 */
export async function nothingForAxe(page: Page, screen: string) {
  await page.locator('main:not([aria-busy])').first().waitFor()
  await page.locator('h1').first().waitFor({ state: 'attached' })
  const { screen: own, isNew, looks } = await findNew(page)
  if (looks.length === 0 && !isNew) return
  const builder = new AxeBuilder({ page })
    // Our pages have no frames, so none is looked at from a page of its own; that halves the time.
    .setLegacyMode()
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'])
  const { violations } = await (isNew ? builder : builder.include('[data-new]')).analyze()
  await page.evaluate(() => document.querySelectorAll('[data-new]').forEach((one) => one.removeAttribute('data-new')))
  expect(
    violations.map(({ id, nodes }) => `${screen}: ${id}: ${nodes.map((node) => node.html.slice(0, 160)).join(' | ')}`),
    screen,
  ).toEqual([])
  seenScreens.add(own)
  looks.forEach((look) => seenLooks.add(look))
}

declare global {
  interface Window {
    holdCourtDiagnostics?: () => {
      pictures: Record<number, number>
      played: Record<number, number>
    }
  }
}

/**
 * A control whose meaning has just changed does for a moment what it meant before, since no hand follows so fast; whoever
 * presses it afterwards means what it says.
 */
export const aMoment = (page: Page) => page.waitForTimeout(600)

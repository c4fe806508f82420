import { spawn, type ChildProcess } from 'node:child_process'
import { existsSync } from 'node:fs'
import { resolve } from 'node:path'
import { expect, test, type Page } from '@playwright/test'
import { announce, Court, courtWithHost, nothingForAxe, openNow, person, signIn } from './court'

// Controls that are lent: real pages, the agent as it is handed out, and a made-up desk on an X server without a screen.

let court: Court
let host: Page
let nia: Page
const programs: ChildProcess[] = []
const agentProgram = resolve('../../src/HoldCourt.Agent/bin/Debug/net10.0/HoldCourt.Agent.dll')
const display = `:${200 + Math.floor(Math.random() * 700)}`

/** What a program has said so far. */
function run(command: string, ...args: string[]): () => string {
  const program = spawn(command, args)
  programs.push(program)
  let said = ''
  program.stdout.on('data', (text) => (said += String(text)))
  program.stderr.on('data', (text) => (said += String(text)))
  return () => said
}

/** In place of the browser's own choice: a whole screen of 1280 by 720. */
const wholeScreen = () => {
  const canvas = Object.assign(document.createElement('canvas'), { width: 1280, height: 720 })
  const context = canvas.getContext('2d')!
  setInterval(() => {
    context.fillStyle = '#f5f2ea'
    context.fillRect(0, 0, 1280, 720)
    context.fillStyle = '#22443f'
    context.fillText(String(performance.now()), 40, 40)
  }, 200)
  navigator.mediaDevices.getDisplayMedia = () => {
    const stream = canvas.captureStream(10)
    const [track] = stream.getVideoTracks()
    const settings = track!.getSettings.bind(track)
    track!.getSettings = () => ({ ...settings(), displaySurface: 'monitor' })
    return Promise.resolve(stream)
  }
}

test.beforeAll(async ({ browser }) => {
  run('Xvfb', display, '-screen', '0', '1280x720x24', '-nolisten', 'tcp')
  await expect.poll(() => existsSync(`/tmp/.X11-unix/X${display.slice(1)}`)).toBe(true)
  ;[court, host] = await courtWithHost(browser)
  await host.addInitScript(wholeScreen)
  const link = await openNow(host, 'Lending')
  nia = await person(browser, court)
  await announce(nia, link, 'Nia Okafor')
  await host.getByRole('button', { name: 'Admit Nia Okafor' }).click()
  await expect(nia.getByTestId('may')).toBeVisible()
  await host.keyboard.press('Escape')
})
test.afterAll(async () => {
  programs.forEach((program) => program.kill('SIGKILL'))
  await court.stop()
})

test('a screen is lent, driven with mouse and keys, and taken back by any key', async () => {
  const desk = run('dotnet', agentProgram, '--desktop', '--screen', display)
  await expect.poll(desk).toContain('ready')
  await host.getByRole('button', { name: /^Shown/ }).click()
  await host.getByRole('button', { name: 'Show my screen…' }).click()
  await host.getByRole('button', { name: 'Show to all' }).click()
  await host.getByRole('button', { name: 'Lend the controls…' }).click()
  await host.getByRole('button', { name: 'Get a code' }).click()
  const line = await host.getByText(/^HoldCourt\.Agent --server/).innerText()
  const [, server, , code] = line.split(' ').slice(1)
  const agent = run('dotnet', agentProgram, '--server', server!, '--code', code!, '--screen', display)
  await expect(host.getByText('The agent is there.', { exact: false })).toBeVisible({ timeout: 30_000 })
  await nothingForAxe(host, 'lending the controls')
  await host.getByLabel('Lend them to').selectOption('Nia Okafor')
  await host.getByRole('button', { name: 'Lend', exact: true }).click()
  await expect(host.getByRole('heading', { name: 'Nia Okafor may take the controls of your screen' })).toBeVisible()
  await host.keyboard.press('Escape')

  await expect(nia.getByRole('heading', { name: 'Odalys Brandt lends you the controls of A' })).toBeVisible()
  await nia.getByRole('button', { name: 'Take the controls' }).click()
  const surface = nia.getByRole('application')
  await expect(surface).toBeVisible()
  await nothingForAxe(nia, 'a screen that one drives')
  await expect.poll(agent).toContain('Nia Okafor drives this screen.')
  const box = (await surface.boundingBox())!
  const at = (x: number, y: number) => [box.x + (x / 1280) * box.width, box.y + (y / 720) * box.height] as const
  await nia.mouse.click(...at(400, 112))
  await expect.poll(desk).toContain('"on":"Close the weir gate"')
  // The product's own keys do nothing meanwhile: "w" would widen the picture, "1" open the microphone.
  await nia.keyboard.type('weir 1')
  await expect.poll(desk).toContain('"typed":"weir 1"')
  await expect(nia.getByRole('button', { name: 'Mic off' })).toBeVisible()
  await nia.mouse.click(...at(100, 600), { button: 'right' })
  await expect.poll(desk).toContain('"button":3')

  await expect(host.getByRole('heading', { name: 'Nia Okafor drives your screen. Any key takes it back.' })).toBeVisible()
  await host.keyboard.press('j')
  await expect(nia.getByRole('application')).toHaveCount(0)
  await expect.poll(agent).toContain('Nobody drives this screen any more.')
  const said = desk()
  await nia.keyboard.press('x')
  await nia.mouse.click(...at(400, 112))
  await nia.waitForTimeout(500)
  expect(desk()).toBe(said)
})

test('it is given back with two keys, and the bench ends what others lend', async () => {
  await host.getByRole('button', { name: /^Shown/ }).click()
  await host.getByLabel('Lend them to').selectOption('Nia Okafor')
  await host.getByRole('button', { name: 'Lend', exact: true }).click()
  await nia.getByRole('button', { name: 'Take the controls' }).click()
  await expect(nia.getByRole('application')).toBeVisible()
  await nia.keyboard.press('Shift+Escape')
  await expect(nia.getByRole('application')).toHaveCount(0)
  await host.getByLabel('Lend them to').selectOption('Nia Okafor')
  await host.getByRole('button', { name: 'Lend', exact: true }).click()
  await nia.getByRole('button', { name: 'Take the controls' }).click()
  await expect(nia.getByRole('application')).toBeVisible()
  // Taken down, nobody drives what nobody sees.
  await host.getByRole('button', { name: 'Take down', exact: true }).click()
  await expect(nia.getByRole('application')).toHaveCount(0)
  await expect(host.getByRole('heading', { name: /drives your screen/ })).toHaveCount(0)
})

test('a house that starts with the made-up desk has an extra who lends it', async ({ browser }) => {
  const demo = await Court.start(0, { 'Extras:Desk': agentProgram })
  try {
    const page = await person(browser, demo)
    await signIn(page)
    await page.getByRole('button', { name: 'Open the session: Spring Wardens’ Assembly' }).click()
    await page.getByRole('button', { name: 'Enter as host' }).click()
    await expect(page.getByRole('region', { name: 'Board' })).toBeVisible()
    await page.keyboard.press('/')
    await page.keyboard.type('item 4')
    await page.keyboard.press('Enter')
    await page.getByRole('button', { name: 'Take the controls' }).click({ timeout: 60_000 })
    const surface = page.getByRole('application')
    await expect(surface).toBeVisible()
    const box = (await surface.boundingBox())!
    const [x, y] = [box.x + (700 / 1280) * box.width, box.y + (600 / 720) * box.height]
    // Where somebody clicked the desk draws a red spot, a few pixels wide here; the pointer goes out of the way.
    const isRed = async () => {
      const shot = await page.screenshot({ clip: { x: x - 5, y: y - 5, width: 10, height: 10 } })
      return await page.evaluate(async (png) => {
        const bitmap = await createImageBitmap(new Blob([Uint8Array.from(atob(png), (one) => one.charCodeAt(0))]))
        const context = new OffscreenCanvas(bitmap.width, bitmap.height).getContext('2d')!
        context.drawImage(bitmap, 0, 0)
        const { data } = context.getImageData(0, 0, bitmap.width, bitmap.height)
        return data.some((red, at) => at % 4 === 0 && red > data[at + 1]! + 50)
      }, shot.toString('base64'))
    }
    await expect.poll(isRed).toBe(false)
    // What comes late on a machine that is busy is let go, as it should be: a hand clicks once more.
    await expect(async () => {
      await page.mouse.click(x, y)
      await page.mouse.move(box.x + 20, box.y + box.height - 20)
      await expect.poll(isRed, { timeout: 8_000 }).toBe(true)
    }).toPass({ timeout: 60_000 })
  } finally {
    await demo.stop()
  }
})

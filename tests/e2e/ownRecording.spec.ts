import { expect, test, type Page } from '@playwright/test'
import { execFileSync, spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { announce, visitsWithHost, nothingForAxe, openNow, person, type Visits } from './court'

// A recording that a page makes by itself, looked at with another program.

test.describe.configure({ mode: 'serial' })

let court: Visits
let host: Page
let nia: Page
let ansel: Page
const folder = mkdtempSync(path.join(tmpdir(), 'own-film-'))

test.beforeAll(async ({ browser }) => {
  ;[court, host] = await visitsWithHost(browser)
  const link = await openNow(host, 'Flood season', { camera: true })
  nia = await person(browser, court)
  ansel = await person(browser, court)
  await announce(nia, link, 'Nia Okafor', { camera: true, microphone: true })
  await announce(ansel, link, 'Ansel Roope', { camera: true })
  await host.getByRole('button', { name: 'Select all who wait' }).click()
  await host.getByRole('button', { name: 'Admit 2' }).click()
  await expect(ansel.getByTestId('may')).toBeVisible()
})
test.afterAll(async () => {
  rmSync(folder, { recursive: true })
  await court.stop()
})

interface Probed {
  format: { duration?: string }
  streams: { codec_type: string; codec_name: string; width?: number }[]
}
const probe = (file: string) =>
  JSON.parse(execFileSync('ffprobe', ['-v', 'error', '-show_format', '-show_streams', '-of', 'json', file]).toString()) as Probed
/** The loudest moment of a stretch, in dB. */
const loudest = (file: string, from: number, length: number) => {
  const { stderr } = spawnSync('ffmpeg', [
    '-ss',
    `${from}`,
    '-t',
    `${length}`,
    '-i',
    file,
    '-vn',
    '-af',
    'volumedetect',
    '-f',
    'null',
    '-',
  ])
  return Number(/max_volume: (-?[\d.]+) dB/.exec(stderr.toString())?.[1] ?? -99)
}
/** How different the pixels of a picture are from each other, 0 to 255. */
const variety = (file: string, at: number) => {
  const bytes = execFileSync('ffmpeg', [
    ...[
      '-v',
      'error',
      '-ss',
      `${at}`,
      '-i',
      file,
      '-frames:v',
      '1',
      '-vf',
      'scale=64:36',
      '-f',
      'rawvideo',
      '-pix_fmt',
      'gray',
      '-',
    ],
  ])
  return Math.max(...bytes) - Math.min(...bytes)
}
const panel = async (page: Page) => {
  await page.keyboard.press('Escape')
  await page.keyboard.press('r')
  return page.getByRole('region', { name: 'On this machine' })
}

test('one file with the pause left out, that another program opens, and nobody in it who said no', async () => {
  await expect(nia.getByRole('button', { name: /^Recording/ }), 'the orders keep it to the bench').toBeHidden()
  const own = await panel(host)
  await own.getByRole('button', { name: 'Record on this machine' }).click()
  await expect(own.getByRole('button', { name: 'Pause' })).toBeEnabled()
  await expect(nia.getByText('Odalys Brandt records on their own machine from now on.')).toBeVisible()
  await expect(nia.getByRole('button', { name: /^Recording/ })).toBeVisible()
  await nothingForAxe(host, 'a recording on this machine')
  await ansel.getByRole('button', { name: 'Take part unrecorded' }).click()
  await host.waitForTimeout(5_000)
  await own.getByRole('button', { name: 'Pause' }).click()
  await host.waitForTimeout(4_000)
  // From here on the one speaks who is not in it.
  await nia.keyboard.press('1')
  await ansel.keyboard.press('1')
  await expect(host.getByRole('region', { name: 'Board' }).getByText('Ansel Roope')).toBeVisible()
  await host.waitForTimeout(1_500)
  await own.getByRole('button', { name: 'Go on' }).click()
  await host.waitForTimeout(5_000)
  const seconds = await own.getByTestId('own-recorded').textContent()
  const download = host.waitForEvent('download')
  await own.getByRole('button', { name: 'End and save' }).click()
  const file = path.join(folder, 'one.webm')
  await (await download).saveAs(file)
  expect((await download).suggestedFilename()).toMatch(/^Flood season \d{4}-\d\d-\d\d .*\.webm$/)
  await expect(own.getByRole('button', { name: 'Record on this machine' })).toBeVisible()
  await expect(ansel.getByRole('button', { name: /^Recording/ }), 'it has ended for all').toBeHidden()

  const { format, streams } = probe(file)
  expect(streams.map((one) => one.codec_type).sort()).toEqual(['audio', 'video'])
  expect(streams.find((one) => one.codec_type === 'video')!.width).toBe(1280)
  const length = Number(format.duration)
  const shown = Number(seconds!.split(':')[1])
  expect(length).toBeGreaterThan(shown - 1.5)
  expect(length).toBeLessThan(shown + 2.5)
  expect(variety(file, 3)).toBeGreaterThan(60)
  expect(loudest(file, 1, 3.5), 'Nia is heard').toBeGreaterThan(-40)
  expect(loudest(file, length - 3.5, 3), 'Ansel is not').toBeLessThan(-60)
})

test('a page that is gone leaves what it wrote, and the bench lets others record', async () => {
  await host.keyboard.press('Escape')
  await host.getByRole('combobox', { name: 'Command line' }).fill('recording on own machines for everyone')
  await host.keyboard.press('Enter')
  await nia.getByRole('button', { name: /^Recording/ }).click()
  await nia.getByRole('button', { name: 'Record on this machine' }).click()
  await expect(nia.getByRole('button', { name: 'End and save' })).toBeEnabled()
  await expect(host.getByRole('button', { name: /^Recording\s*by 1 person/ })).toBeVisible()
  await nia.waitForTimeout(6_000)
  const address = nia.url()
  const context = nia.context()
  await nia.close({ runBeforeUnload: false })
  nia = await context.newPage()
  await nia.goto(address)
  await nia.getByRole('button', { name: /^Recording/ }).click()
  const download = nia.waitForEvent('download')
  await nia.getByRole('button', { name: 'Save as a file' }).click()
  const file = path.join(folder, 'torn.webm')
  await (await download).saveAs(file)
  const packets = execFileSync('ffprobe', ['-v', 'error', '-show_entries', 'packet=pts_time', '-of', 'csv=p=0', file])
    .toString()
    .trim()
    .split('\n')
    .map(Number)
  expect(Math.max(...packets.filter(Number.isFinite)), 'up to the last second or two').toBeGreaterThan(3)
  await nia.getByRole('button', { name: 'Remove', exact: true }).click()
  await nia.getByRole('button', { name: 'Remove for good' }).click()
  await expect(nia.getByText('Recordings in this browser')).toBeHidden()

  // What the orders gave they take again, and the page ends what goes on.
  if (await nia.getByRole('button', { name: 'It goes on in no page: say that it has ended' }).isVisible())
    await nia.getByRole('button', { name: 'It goes on in no page: say that it has ended' }).click()
  await nia.getByRole('button', { name: 'Record on this machine' }).click()
  await expect(nia.getByRole('button', { name: 'End and save' })).toBeEnabled()
  await nia.waitForTimeout(2_000)
  const ended = nia.waitForEvent('download')
  await host.getByRole('combobox', { name: 'Command line' }).fill('recording on own machines for the bench')
  await host.keyboard.press('Enter')
  await ended
  await expect(nia.getByText('Your own recording has ended: it may not go on.')).toBeVisible()
  await expect(host.getByRole('button', { name: /^Recording\s*off/ })).toBeVisible()
})

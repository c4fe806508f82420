// What the benchmarks in a browser share: the program that ./start made, and Chromium.
import { spawn } from 'node:child_process'
import { mkdtempSync } from 'node:fs'
import { createRequire } from 'node:module'
import { tmpdir } from 'node:os'
import path from 'node:path'

export const root = path.resolve(import.meta.dirname, '..')
const { chromium } = createRequire(path.join(root, 'tests/e2e/package.json'))('@playwright/test')

export const temporary = () => mkdtempSync(path.join(tmpdir(), 'hold-court-bench-'))

export async function serve(url, folder, more = []) {
  const program = path.join(root, '.build/app/HoldCourt.Server.dll')
  const child = spawn('dotnet', [program, '--urls', url, '--Data:Folder', folder, '--Demo:Load', 'true', ...more])
  // Also when the benchmark fails.
  process.once('exit', () => child.kill('SIGKILL'))
  let said = ''
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (text) => (said += text))
  await new Promise((ready, failed) => {
    child.stdout.on('data', () => said.includes('Hold Court is ready') && ready())
    child.once('exit', () => failed(new Error(`The server did not start.\n${said}`)))
  })
  return child
}

export const stop = (child) => new Promise((gone) => (child.once('exit', gone), child.kill('SIGTERM')))

/** With a camera of the browser's own making, or otherwise as is said. */
export const launch = ({ args = ['--use-fake-device-for-media-stream', '--use-fake-ui-for-media-stream'], ...more } = {}) =>
  chromium.launch({
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
    args: ['--no-sandbox', ...args],
    ...more,
  })

export const person = async (browser) => (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage()

export async function signIn(page, url) {
  await page.goto(url + '/sign-in')
  await page.getByLabel('E-mail').fill('odalys@larkmoor.example.org')
  await page.getByLabel('Password').fill('heron-ferry-lantern')
  await page.getByRole('button', { name: 'Sign in', exact: true }).click()
  await page.getByRole('heading', { name: 'Today' }).waitFor()
}

export const row = (what, figure) => console.log(`| ${what} | ${figure} |`)

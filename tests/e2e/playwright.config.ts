import { defineConfig } from '@playwright/test'

/** What measures loudness, speed or films: alone on the machine, or it measures the others. */
const measuring = ['bench', 'capture', 'floor', 'lending', 'ownRecording', 'recording', 'rooms', 'sitting'].map(
  (name) => `${name}.spec.ts`,
)

export default defineConfig({
  testDir: '.',
  projects: [
    { name: 'together', testMatch: '*.spec.ts', testIgnore: measuring },
    { name: 'alone', testMatch: measuring },
  ],
  timeout: 300_000,
  expect: { timeout: 45_000 },
  // Machines stand still at times; what passes only at the second try is named at the end.
  retries: 1,
  reporter: [['list'], ['json']],
  use: {
    actionTimeout: 45_000,
    viewport: { width: 1280, height: 800 },
    permissions: ['camera', 'microphone', 'clipboard-read', 'clipboard-write'],
    // Recording each step costs more than the step: only what fails is recorded, at its second try.
    trace: 'on-first-retry',
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: [
        '--headless',
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--use-fake-device-for-media-stream',
        '--use-fake-ui-for-media-stream',
        '--autoplay-policy=no-user-gesture-required',
      ],
    },
  },
})

import { readdirSync, readFileSync } from 'node:fs'
import { expect, test } from 'vitest'

const src = new URL('..', import.meta.url)
const read = (path: string) => readFileSync(new URL(path, src), 'utf8')

/** What all topics stand in: the people and their picture, devices, the live line. Each other folder is a topic's. */
const frame = ['api', 'live', 'locales', 'media', 'people', 'picture', 'planning', 'settings', 'sittings', 'topics', 'ui']
const topics = readdirSync(src, { withFileTypes: true })
  .filter((one) => one.isDirectory() && !frame.includes(one.name))
  .map(({ name }) => name)

test.each([
  'sittings/BenchPage.tsx',
  'sittings/SeatPage.tsx',
  'sittings/Ribbon.tsx',
  'people/BoardHead.tsx',
  'people/Strip.tsx',
  'planning/PlanPage.tsx',
  'runSheets/ItemsEditor.tsx',
  'settings/keymap.ts',
  'settings/KeysSection.tsx',
])('%s names no topic: what topics add comes by their slots', (file) => {
  const own = file.split('/')[0]
  const named = [...read(file).matchAll(/from '\.\.\/(\w+)\//g)].map((match) => match[1]!)
  expect(named.length).toBeGreaterThan(0)
  expect(named.filter((folder) => folder !== own && topics.includes(folder))).toEqual([])
})

import { beforeEach, expect, test, vi } from 'vitest'

const kept = new Map<string, string>()
vi.stubGlobal('localStorage', {
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, value: string) => void kept.set(key, value),
})

/** As after a reload of the page. */
const load = async () => {
  vi.resetModules()
  return import('./keymap')
}
beforeEach(() => kept.clear())

test('two acts never share a key: the other one takes the key in exchange, and both are kept', async () => {
  const keys = await load()
  expect(keys.setKey('nextItem', 'j')).toBe(null)
  expect(keys.setKey('mute', 'a')).toBe('admit')
  const again = (await load()).useKeymap.getState()
  expect(again).toMatchObject({ nextItem: 'j', mute: 'a', admit: 'q' })
  expect(new Set(Object.values(again)).size).toBe(Object.values(again).length)
  ;(await load()).resetKeys()
  expect((await load()).useKeymap.getState()).toEqual(keys.usualKeys)
})

test('what was kept by another version or broken leaves the usual keys', async () => {
  kept.set('keys', '{"noSuchAct":"k","admit":7,"door":"o"')
  expect((await load()).useKeymap.getState().door).toBe('l')
  kept.set('keys', '{"noSuchAct":"k","admit":7,"door":"o"}')
  const map = (await load()).useKeymap.getState()
  expect(map).toMatchObject({ admit: 'a', door: 'o' })
  expect(map).not.toHaveProperty('noSuchAct')
})

test('a key is named with Ctrl alone; keys that only go with others, and those of the browser, are none', async () => {
  const { nameOfKey } = await load()
  const press = (key: string, held: { ctrlKey?: boolean; altKey?: boolean; metaKey?: boolean } = {}) =>
    nameOfKey({ key, ctrlKey: false, altKey: false, metaKey: false, ...held })
  expect([press('a'), press('A'), press('Z', { ctrlKey: true }), press('Delete')]).toEqual(['a', 'A', 'Ctrl+z', 'Delete'])
  expect([press('Shift'), press('a', { altKey: true }), press('a', { metaKey: true }), press('Tab')]).toEqual([
    null,
    null,
    null,
    null,
  ])
})

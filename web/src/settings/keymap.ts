import { create } from 'zustand'
import { kept } from './kept'

/** What a key can do, with the key it has until it is changed. A name's first part says on whose page. */
export const usualKeys = {
  admit: 'a',
  sure: 'A',
  next: 'n',
  decline: 'd',
  floor: 'f',
  takeFloor: 'F',
  mute: 'q',
  muteAll: 'Q',
  role: 'p',
  lobby: 'b',
  moveTo: 'm',
  remove: 'Delete',
  door: 'l',
  record: 'r',
  find: 's',
  nextItem: 'i',
  ask: 'y',
  front: 'v',
  selectAll: 'Ctrl+a',
  clear: 'Escape',
  line: '/',
  goTo: 'g',
  takeBack: 'Ctrl+z',
  mic: '1',
  cam: '2',
  hand: 'h',
  write: 'c',
  captions: 't',
  fullScreen: 'x',
  widen: 'w',
  callBench: 'o',
  help: '?',
} as const

export type KeyAct = keyof typeof usualKeys

/** What only the bench can do. */
export const benchActs: readonly KeyAct[] = [
  'admit',
  'sure',
  'next',
  'decline',
  'floor',
  'takeFloor',
  'mute',
  'muteAll',
  'role',
  'lobby',
  'moveTo',
  'remove',
  'door',
  'record',
  'find',
  'nextItem',
  'ask',
  'front',
  'selectAll',
  'clear',
  'line',
  'goTo',
  'takeBack',
  'widen',
]
export const ownActs: readonly KeyAct[] = ['mic', 'cam', 'hand', 'write', 'captions', 'fullScreen', 'callBench', 'help']

const place = 'keys'

/** Of what was kept, that which still names an act and a key. */
const keptKeys = () =>
  Object.fromEntries(
    Object.entries(kept<Record<string, unknown>>(place)).filter(([act, key]) => act in usualKeys && typeof key === 'string'),
  ) as Partial<Record<KeyAct, string>>

/** The keys as this reader has them, kept in this browser. */
export const useKeymap = create<Record<KeyAct, string>>(() => ({ ...usualKeys, ...keptKeys() }))

function keep() {
  const map = useKeymap.getState()
  const changed = Object.fromEntries(Object.entries(map).filter(([act, key]) => usualKeys[act as KeyAct] !== key))
  localStorage.setItem(place, JSON.stringify(changed))
}

/** Gives an act a key; the act that had it so far gets the old one in exchange. */
export function setKey(act: KeyAct, key: string): KeyAct | null {
  const map = useKeymap.getState()
  const other = (Object.keys(map) as KeyAct[]).find((one) => one !== act && map[one] === key) ?? null
  useKeymap.setState({ ...(other ? { [other]: map[act] } : {}), [act]: key })
  keep()
  return other
}

/** The keys of an account that has signed in. */
export function takeKeys(keys: object) {
  const known = Object.entries(keys).filter(([act, key]) => act in usualKeys && typeof key === 'string')
  useKeymap.setState({ ...usualKeys, ...Object.fromEntries(known) }, true)
  keep()
}

export function resetKeys() {
  useKeymap.setState(usualKeys, true)
  keep()
}

/** How a pressed key is written: "a", "A", "Ctrl+z". Null for keys that only go with others. */
export function nameOfKey(event: { key: string; ctrlKey: boolean; altKey: boolean; metaKey: boolean }): string | null {
  if (event.altKey || event.metaKey || ['Control', 'Shift', 'Alt', 'Meta', 'Dead', 'Tab', 'Unidentified'].includes(event.key))
    return null
  return event.ctrlKey ? `Ctrl+${event.key.toLowerCase()}` : event.key
}

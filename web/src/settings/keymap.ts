import { create } from 'zustand'
import { topicKeys } from '../topics/keys'
import type { TopicKeys } from '../topics/keyTypes'
import { kept } from './kept'

/** The acts of one kind of keys, of all topics. */
type ActsOf<K extends TopicKeys> = keyof K['bench'] | keyof K['own']
type Distributed<K> = K extends TopicKeys ? ActsOf<K> & string : never

/** What a key can do. */
export type KeyAct = Distributed<(typeof topicKeys)[number]>

const all: readonly TopicKeys[] = topicKeys
const ofKind = (kind: keyof TopicKeys) =>
  all.flatMap((keys) => Object.entries(keys[kind] ?? {})).sort(([, [, one]], [, [, other]]) => one - other)
const actsOf = (kind: keyof TopicKeys) => ofKind(kind).map(([act]) => act as KeyAct)

/** Each with the key it has until it is changed. */
export const usualKeys = Object.fromEntries([...ofKind('bench'), ...ofKind('own')].map(([act, [key]]) => [act, key])) as Readonly<
  Record<KeyAct, string>
>

/** What only the bench can do. */
export const benchActs = actsOf('bench')
export const ownActs = actsOf('own')

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

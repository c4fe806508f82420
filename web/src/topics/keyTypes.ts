/** An act's usual key, and where it stands in the list of keys. */
type Key = readonly [key: string, at: number]

/** What the keys of a topic do: for the bench alone, and for everybody. */
export interface TopicKeys {
  bench?: Readonly<Record<string, Key>>
  own?: Readonly<Record<string, Key>>
}

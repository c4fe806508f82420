import type { TFunction } from 'i18next'
import type { ComponentType, ReactNode } from 'react'
import type { MeRow } from '../contract.generated'
import type { Sitting } from '../live/store'
import type { KeyAct } from '../settings/keymap'

/** What the page of a sitting is drawn from. */
export interface Within {
  me: MeRow
  sitting: Sitting
  id: string
  link: string
}

/** Brings up a part beside the picture; null closes it. */
export type Show = (key: string | null) => void

/** A card that says something while there is something to say. Those of one place stand in the order of their numbers. */
export interface Card {
  at: number
  Card: ComponentType<Within>
}

/**
 * A sentence of the session's state, a word at the ribbon's end, a line at the foot; those of one place stand in the order of
 * their numbers.
 */
export interface Piece {
  at: number
  Item: ComponentType<Within>
}

/** A part beside the picture, one at a time. */
export interface Part {
  at: number
  key: string
  /** After the key of "go to". */
  letter?: string
  label: (t: TFunction) => string
  Content: ComponentType<Within>
  /** Something new in it, counted; called while it is there. */
  useCount?: () => number
  /** It is always there where this is left out. */
  isThere?: (within: Within) => boolean
  /** It needs more room than the others. */
  isWide?: (within: Within) => boolean
}

/** What a topic adds to a page of the sitting. A page draws each by itself: what fails takes nothing else with it. */
export interface PageTopic {
  ribbon?: Piece
  ribbonEnd?: Piece
  /** Between the ribbon and the picture. */
  above?: Card
  /** Below the picture. */
  below?: Card
  /** At the foot of the page. */
  foot?: Piece
  beside?: Part
  /** After the key of "go to", where a letter leads that no part beside the picture has. */
  letters?: Readonly<Record<string, () => void>>
  /** Around the picture. */
  Around?: ComponentType<{ children: ReactNode }>
  /** In place of the picture; null where that is to be seen. */
  instead?: (within: Within) => ReactNode
  /** Draws nothing, and follows what happens. */
  Watch?: ComponentType<Within & { show: Show }>
  /** What its keys do. */
  acts?: (within: Within) => Partial<Record<KeyAct, () => void>>
}

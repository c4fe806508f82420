import type { ComponentType } from 'react'
import type { Item } from '../contract.generated'

export interface OfItem {
  item: Item
  onChange: (change: Partial<Item>) => void
}

/** What an item of the order of business says of a topic, among the others by its number. */
export interface ItemPart {
  at: number
  Fields: ComponentType<OfItem>
}

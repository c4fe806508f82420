import { exhibits } from '../exhibits/onItem'
import { orders } from '../orders/onItem'
import { picture } from '../picture/onItem'
import { polls } from '../polls/onItem'
import { recording } from '../recording/onItem'
import { rooms } from '../rooms/onItem'
import type { ItemPart } from './itemSlots'

/** What topics add to an item of the order of business, an entry for each. */
export const onItem: readonly ItemPart[] = [exhibits, orders, picture, polls, recording, rooms].sort(
  (one, other) => one.at - other.at,
)

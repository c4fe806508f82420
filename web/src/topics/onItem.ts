import { exhibits } from '../exhibits/onItem'
import { orders } from '../orders/onItem'
import { picture } from '../picture/onItem'
import { polls } from '../polls/onItem'
import { recording } from '../recording/onItem'
import { rooms } from '../rooms/onItem'
import { inOrder } from './inOrder'
import type { ItemPart } from './itemSlots'

/** What topics add to an item of the order of business, an entry for each. */
export const onItem: readonly ItemPart[] = inOrder([exhibits, orders, picture, polls, recording, rooms])

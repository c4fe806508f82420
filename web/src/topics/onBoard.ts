import { admission } from '../admission/onBoard'
import { docket } from '../docket/onBoard'
import { exhibits } from '../exhibits/onBoard'
import { floor } from '../floor/onBoard'
import { orders } from '../orders/onBoard'
import { people } from '../people/onBoard'
import { polls } from '../polls/onBoard'
import { rooms } from '../rooms/onBoard'
import { signs } from '../signs/onBoard'
import type { BoardTopic } from './boardSlots'
import { inOrder } from './inOrder'

/** What topics add to the board, an entry for each. */
const onBoard: readonly BoardTopic[] = [admission, docket, exhibits, floor, orders, people, polls, rooms, signs]

export const stripWords = inOrder(onBoard.flatMap(({ words = [] }) => words))
export const stripActs = inOrder(onBoard.map(({ act }) => act))
export const stripClocks = inOrder(onBoard.map(({ clock }) => clock))
export const stripCarries = onBoard.flatMap(({ useCarry }) => useCarry ?? [])
export const actsForAll = inOrder(onBoard.flatMap(({ forAll = [] }) => forAll))
export const actsForChosen = inOrder(onBoard.flatMap(({ forChosen = [] }) => forChosen))

import { admission } from '../admission/onBoard'
import { docket } from '../docket/onBoard'
import { exhibits } from '../exhibits/onBoard'
import { floor } from '../floor/onBoard'
import { orders } from '../orders/onBoard'
import { people } from '../people/onBoard'
import { polls } from '../polls/onBoard'
import { rooms } from '../rooms/onBoard'
import { signs } from '../signs/onBoard'
import type { BoardTopic, HeadAct } from './boardSlots'

/** What topics add to the board, an entry for each. */
const onBoard: readonly BoardTopic[] = [admission, docket, exhibits, floor, orders, people, polls, rooms, signs]

const inOrder = <T extends { at: number }>(all: readonly T[]) => [...all].sort((one, other) => one.at - other.at)
const gather = <P>(all: readonly (readonly HeadAct<P>[] | undefined)[]) => inOrder(all.flatMap((some) => some ?? []))

export const stripWords = inOrder(onBoard.flatMap(({ words }) => words ?? []))
export const stripActs = gather(onBoard.map(({ act }) => act && [act]))
export const stripClocks = onBoard.flatMap(({ useClock }) => useClock ?? [])
export const stripCarries = onBoard.flatMap(({ useCarry }) => useCarry ?? [])
export const actsForAll = gather(onBoard.map(({ forAll }) => forAll))
export const actsForChosen = gather(onBoard.map(({ forChosen }) => forChosen))

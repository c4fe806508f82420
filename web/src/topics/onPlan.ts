import { admission } from '../admission/onPlan'
import { docket } from '../docket/onPlan'
import { handouts } from '../handouts/onPlan'
import { orders } from '../orders/onPlan'
import { polls } from '../polls/onPlan'
import { recording } from '../recording/onPlan'
import { rooms } from '../rooms/onPlan'
import { runSheets } from '../runSheets/onPlan'
import { inOrder } from './inOrder'
import type { PlanTopic } from './planSlots'

/** What topics add to a plan, an entry for each. */
const onPlan: readonly PlanTopic[] = [admission, docket, handouts, orders, polls, recording, rooms, runSheets]

export const blanks = onPlan.map(({ blank }) => blank)
export const sections = inOrder(onPlan.map(({ section }) => section))
export const asides = inOrder(onPlan.map(({ aside }) => aside))
export const keptParts = inOrder(onPlan.map(({ kept }) => kept))

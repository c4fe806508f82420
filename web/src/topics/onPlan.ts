import { admission } from '../admission/onPlan'
import { docket } from '../docket/onPlan'
import { handouts } from '../handouts/onPlan'
import { orders } from '../orders/onPlan'
import { polls } from '../polls/onPlan'
import { recording } from '../recording/onPlan'
import { rooms } from '../rooms/onPlan'
import { runSheets } from '../runSheets/onPlan'
import type { PlanTopic } from './planSlots'

/** What topics add to a plan and to the items of the order of business, an entry for each. */
export const onPlan: readonly PlanTopic[] = [admission, docket, handouts, orders, polls, recording, rooms, runSheets]

/** The parts of one place, in their order. */
export const partsOf = <K extends Exclude<keyof PlanTopic, 'blank'>>(place: K): NonNullable<PlanTopic[K]>[] =>
  onPlan.flatMap((topic) => (topic[place] ? [topic[place]] : [])).sort((one, other) => one.at - other.at)

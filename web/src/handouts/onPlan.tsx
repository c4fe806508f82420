import type { KeptPlan } from '../contract.generated'
import { Papers } from '../planning/Papers'
import type { PlanTopic } from '../topics/planSlots'

export const handouts: PlanTopic = { kept: { at: 20, Part: ({ kept }: { kept: KeptPlan }) => <Papers id={kept.id} /> } }

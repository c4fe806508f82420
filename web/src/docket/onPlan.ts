import { DocketEditor } from '../planning/DocketEditor'
import type { PlanTopic } from '../topics/planSlots'

export const docket: PlanTopic = { kept: { at: 10, Part: DocketEditor } }

import type { TFunction } from 'i18next'
import type { ComponentType } from 'react'
import type { KeptPlan, Plan } from '../contract.generated'

export interface OfPlan {
  plan: Plan
  onChange: (change: Partial<Plan>) => void
}

/** What a topic adds to the page on which a session is planned; parts of one place stand in the order of their numbers. */
export interface PlanTopic {
  /** What a plan has of it before anybody chose anything. */
  blank?: Partial<Plan>
  /** Under a heading of its own. */
  section?: { at: number; title: (t: TFunction) => string; Section: ComponentType<OfPlan> }
  /** Beside the sections. */
  aside?: { at: number; Part: ComponentType<OfPlan> }
  /** Below, once the plan is kept. */
  kept?: { at: number; Part: ComponentType<{ kept: KeptPlan }> }
}

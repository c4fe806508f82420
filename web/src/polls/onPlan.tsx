import type { OfPlan, PlanTopic } from '../topics/planSlots'
import { PreparedPolls } from './PreparedPolls'

function Prepared({ plan, onChange }: OfPlan) {
  return (
    <PreparedPolls
      untitled
      prepared={plan.polls ?? []}
      onChange={(polls) => {
        onChange({ polls })
        return Promise.resolve(true)
      }}
    />
  )
}

export const polls: PlanTopic = { blank: { polls: [] }, section: { at: 20, title: (t) => t('polls.title'), Section: Prepared } }

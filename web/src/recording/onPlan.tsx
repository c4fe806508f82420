import { useTranslation } from 'react-i18next'
import type { KeptPlan } from '../contract.generated'
import type { OfPlan, PlanTopic } from '../topics/planSlots'
import { Tick } from '../ui/Field'
import { SessionRecordings } from './SessionRecordings'

function RecordsItself({ plan, onChange }: OfPlan) {
  const { t } = useTranslation()
  return (
    <Tick
      label={t('plan.recordsItself')}
      checked={plan.recordsItself}
      onChange={(e) => onChange({ recordsItself: e.target.checked })}
    />
  )
}

export const recording: PlanTopic = {
  blank: { recordsItself: false },
  aside: { at: 30, Part: RecordsItself },
  kept: { at: 30, Part: ({ kept }: { kept: KeptPlan }) => <SessionRecordings session={kept.id} /> },
}

import { useTranslation } from 'react-i18next'
import type { OfPlan, PlanTopic } from '../topics/planSlots'
import { Tick } from '../ui/Field'

function EarlyEntry({ plan, onChange }: OfPlan) {
  const { t } = useTranslation()
  return (
    <div className="border-t border-line pt-2">
      <Tick label={t('plan.earlyEntry')} checked={plan.earlyEntry} onChange={(e) => onChange({ earlyEntry: e.target.checked })} />
    </div>
  )
}

export const admission: PlanTopic = { blank: { earlyEntry: true }, aside: { at: 20, Part: EarlyEntry } }

import { useTranslation } from 'react-i18next'
import type { OfPlan, PlanTopic } from '../topics/planSlots'
import { ItemsEditor } from './ItemsEditor'

function Business({ plan, onChange }: OfPlan) {
  const { t } = useTranslation()
  return (
    <>
      <p className="text-[0.844rem] text-ink2">{t('runSheet.planHint')}</p>
      <ItemsEditor items={plan.runSheet ?? []} onChange={(runSheet) => onChange({ runSheet })} />
    </>
  )
}

export const runSheets: PlanTopic = {
  blank: { runSheet: [] },
  section: { at: 10, title: (t) => t('runSheet.title'), Section: Business },
}

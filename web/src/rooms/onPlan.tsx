import { useTranslation } from 'react-i18next'
import type { OfPlan, PlanTopic } from '../topics/planSlots'
import { WishedRooms } from './WishedRooms'

function Wished({ plan, onChange }: OfPlan) {
  const { t } = useTranslation()
  return (
    <>
      <p className="text-[0.844rem] text-ink2">{t('rooms.planHint')}</p>
      <WishedRooms form={plan.rooms ?? null} onChange={(rooms) => onChange({ rooms })} />
    </>
  )
}

export const rooms: PlanTopic = { blank: { rooms: null }, section: { at: 30, title: (t) => t('rooms.title'), Section: Wished } }

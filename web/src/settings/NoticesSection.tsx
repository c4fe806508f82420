import { useTranslation } from 'react-i18next'
import { setArrivalSound, useArrivalSound } from '../admission/arrivals'
import { Tick } from '../ui/Field'
import { change, useSettings } from './store'

/** What makes a sound, and what is shown over the picture. */
export function NoticesSection() {
  const { t } = useTranslation()
  const { showsSigns, messageSound } = useSettings()
  const arrival = useArrivalSound((state) => state.on)
  return (
    <div className="flex flex-col">
      <Tick label={t('lobby.sound')} checked={arrival} onChange={(e) => setArrivalSound(e.target.checked)} />
      <Tick
        label={t('settings.messageSound')}
        checked={messageSound}
        onChange={(e) => change({ messageSound: e.target.checked })}
      />
      <Tick label={t('settings.showsSigns')} checked={showsSigns} onChange={(e) => change({ showsSigns: e.target.checked })} />
      <p className="mt-2 text-[0.844rem] text-ink2">{t('settings.noticesHint')}</p>
    </div>
  )
}

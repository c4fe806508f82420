import { useTranslation } from 'react-i18next'
import { Devices } from '../admission/CheckPage'
import { media, useMedia } from '../media/engine'

/** Camera, microphone and speaker. */
export function DevicesSection() {
  const { t } = useTranslation()
  const camera = useMedia((state) => state.ownCamera)
  return (
    <>
      <p className="mb-2 text-[0.844rem] text-ink2">{t('settings.devicesHint')}</p>
      <Devices check={{ devicesChanged: () => media.changeDevices(), ready: camera !== null }} />
    </>
  )
}

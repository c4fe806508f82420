import { useTranslation } from 'react-i18next'
import type { RecordingPage } from '../../contract.generated'
import { dayAndTime } from '../../i18n'
import { Part } from './Part'

export function Consents({ page }: { page: RecordingPage }) {
  const { t } = useTranslation()
  if (page.consents.length === 0) return null
  return (
    <Part title={t('player.consents')}>
      <ul className="flex flex-col gap-0.5 text-[0.906rem]">
        {page.consents.map((one, at) => (
          <li key={at}>
            <span className="text-[0.812rem] text-ink2">{dayAndTime(one.at)}</span> {one.name}:{' '}
            {t(one.erased ? 'player.erased' : one.answer === 'agreed' ? 'player.agreed' : 'player.leftOut')}
          </li>
        ))}
      </ul>
    </Part>
  )
}

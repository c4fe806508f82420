import { useTranslation } from 'react-i18next'
import type { MeRow } from '../contract.generated'
import { wish } from '../live/connection'
import { Button } from '../ui/Button'

/** Asks the bench for leave to show something; nothing for whoever may without asking. */
export function AskToShow({ me }: { me: MeRow }) {
  const { t } = useTranslation()
  if (me.may.includes('exhibit')) return null
  return (
    <p className="flex flex-wrap items-center gap-2">
      <span className="flex-1 text-[0.844rem] text-ink2">{t(me.wantsToShow ? 'exhibits.asked' : 'exhibits.askHint')}</span>
      <Button small onClick={() => void wish({ do: 'askToShow', on: me.wantsToShow === null })}>
        {t(me.wantsToShow ? 'exhibits.askNoLonger' : 'exhibits.askToShow')}
      </Button>
    </p>
  )
}

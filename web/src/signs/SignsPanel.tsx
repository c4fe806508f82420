import { clsx } from 'clsx'
import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { MeRow, Sign, State } from '../contract.generated'
import { AskToShow } from '../exhibits/AskToShow'
import { wish } from '../live/connection'
import { Button } from '../ui/Button'
import { Panel } from '../ui/Panel'

const states: readonly State[] = ['following', 'lostYou', 'cannotHear', 'done', 'backSoon']
const signs: readonly Sign[] = ['agreed', 'thanks', 'applause', 'laughing']

/** How it goes for oneself, and reactions. */
export function SignsPanel({ me }: { me: MeRow }) {
  const { t } = useTranslation()
  const [open, setOpen] = useState(false)
  const show = (to: State | null) => void wish({ do: 'setState', to }).then((done) => done && setOpen(false))
  return (
    <Panel
      title={t('signs.title')}
      side="top"
      open={open}
      onOpenChange={setOpen}
      trigger={
        <button
          className={clsx(
            'flex min-h-9 items-center rounded-sm border px-2 text-[0.812rem] font-semibold whitespace-nowrap',
            me.state ? 'border-moss bg-moss-soft text-moss' : 'border-edge bg-paper text-ink',
          )}
        >
          {me.state ? t(`signs.state.${me.state}`) : t('signs.open')}
        </button>
      }
    >
      <p className="mb-1.5 text-[0.844rem] text-ink2">{t('signs.stateHint')}</p>
      <div className="flex flex-wrap gap-1.5">
        {states.map((state) => (
          <Button
            key={state}
            small
            look={me.state === state ? 'primary' : 'plain'}
            onClick={() => show(me.state === state ? null : state)}
          >
            {t(`signs.state.${state}`)}
          </Button>
        ))}
        {me.state && (
          <Button small look="text" onClick={() => show(null)}>
            {t('signs.none')}
          </Button>
        )}
      </div>
      <p className="mt-4 mb-1.5 text-[0.844rem] text-ink2">
        {me.may.includes('react') ? t('signs.reactHint') : t('signs.reactOff')}
      </p>
      {me.may.includes('react') && (
        <div className="flex flex-wrap gap-1.5">
          {signs.map((sign) => (
            <Button key={sign} small onClick={() => void wish({ do: 'react', sign })}>
              {t(`signs.sign.${sign}`)}
            </Button>
          ))}
        </div>
      )}
      <div className="mt-4 empty:hidden">
        <AskToShow me={me} />
      </div>
    </Panel>
  )
}

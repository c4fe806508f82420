import { clsx } from 'clsx'
import { useState, type FormEvent } from 'react'
import { useTranslation } from 'react-i18next'
import type { MeRow } from '../contract.generated'
import { wish } from '../live/connection'
import { useLive } from '../live/store'
import { switches, useOwnMicrophone } from '../media/useOwnDevices'
import { DevicesSection } from '../settings/DevicesSection'
import { useKeymap } from '../settings/keymap'
import { SignsPanel } from '../signs/SignsPanel'
import { Button } from '../ui/Button'
import { Field } from '../ui/Field'
import { Panel } from '../ui/Panel'
import { VoiceBar } from './VoiceBar'

/**
 * One's own strip with one's own switches; there is no other bar of controls. Short, it is the switches alone, as the last line of a
 * widened picture has them.
 */
export function OwnStrip({ me, short = false }: { me: MeRow; short?: boolean }) {
  const { t } = useTranslation()
  const microphone = useOwnMicrophone()
  const mic = t(`mine.mic.${microphone}`)
  const holds = useLive((state) => state.sitting?.floor.turn?.seat === me.seat)
  const keys = useKeymap()
  // On the board's width a deputy's three switches fill a line.
  const signsAbove = me.role === 'deputy'
  return (
    <section
      aria-label={t('mine.label')}
      className={`flex h-full items-center gap-x-2 gap-y-1 ${short ? '' : 'min-h-14 flex-wrap bg-raised px-2.5 py-1.5'}`}
    >
      {!short && <NamePanel me={me} />}
      {!short && signsAbove && <SignsPanel me={me} />}
      <div className={`flex justify-end gap-1.5 max-sm:basis-full ${short ? '' : 'sm:flex-wrap'}`}>
        <Switch hint={keys.mic} on={microphone === 'on'} ill={microphone === 'mute'} label={mic} onClick={switches.microphone}>
          {microphone === 'on' && <VoiceBar seat={me.seat} />}
        </Switch>
        <Switch
          hint={keys.cam}
          on={me.cameraOn}
          label={me.cameraOn ? t('mine.camOn') : t('mine.camOff')}
          onClick={switches.camera}
        />
        {(me.may.includes('raiseHand') || me.hand !== null || holds) && (
          <Switch
            hint={keys.hand}
            on={me.hand !== null || holds}
            label={holds ? t('floor.yield') : me.hand === null ? t('floor.ask') : t('floor.lower')}
            onClick={switches.hand}
          />
        )}
        {(short || !signsAbove) && <SignsPanel me={me} />}
      </div>
    </section>
  )
}

interface SwitchProps {
  hint: string
  on: boolean
  /** It is meant to be on, and does nothing. */
  ill?: boolean
  label: string
  onClick: () => void
  children?: React.ReactNode
}

function Switch({ hint, on, ill = false, label, onClick, children }: SwitchProps) {
  return (
    <button
      aria-keyshortcuts={hint}
      onClick={onClick}
      className={clsx(
        'flex min-h-9 items-center gap-1.5 rounded-sm border px-2 text-[0.812rem] font-semibold',
        'whitespace-nowrap max-sm:flex-1 max-sm:justify-center max-sm:px-1 max-sm:leading-tight',
        'max-sm:whitespace-normal',
        on && 'border-moss bg-moss-soft text-moss',
        ill && 'border-brick bg-paper text-brick',
        !on && !ill && 'border-edge bg-paper text-ink',
      )}
    >
      <kbd aria-hidden className="rounded-sm border border-current px-1 font-sans text-[0.656rem] max-sm:hidden">
        {hint}
      </kbd>
      {children}
      {label}
    </button>
  )
}

function NamePanel({ me }: { me: MeRow }) {
  const { t } = useTranslation()
  const [open, setOpen] = useState(false)
  const [name, setName] = useState(me.name)
  const save = async (event: FormEvent) => {
    event.preventDefault()
    if (await wish({ do: 'rename', seat: me.seat, name })) setOpen(false)
  }
  return (
    <Panel
      title={t('mine.settings')}
      side="top"
      open={open}
      onOpenChange={(next) => {
        setName(me.name)
        setOpen(next)
      }}
      trigger={
        <button
          className="flex min-w-28 flex-1 basis-28 items-center gap-2 text-left"
          aria-label={`${me.name}, ${t('mine.you', { role: t(`role.${me.role}`) })}. ${t('mine.settings')}`}
        >
          <b aria-hidden className="grid size-6 shrink-0 place-items-center rounded-sm bg-felt text-[0.75rem] text-on-felt">
            {t(`roleLetter.${me.role}`)}
          </b>
          <span className="min-w-0">
            <span className="block overflow-hidden text-[0.844rem] font-semibold text-ellipsis whitespace-nowrap [font-stretch:85%]">
              {me.name}
            </span>
            <span className="block text-[0.75rem] text-ink2">{t('mine.you', { role: t(`role.${me.role}`) })}</span>
          </span>
        </button>
      }
    >
      <form onSubmit={(event) => void save(event)} className="flex flex-col gap-3">
        <Field label={t('act.renameLabel')} value={name} onChange={(e) => setName(e.target.value)} />
        <Button look="primary" type="submit" className="self-start">
          {t('act.save')}
        </Button>
      </form>
      <div className="mt-4 border-t border-line pt-3">
        <DevicesSection />
      </div>
    </Panel>
  )
}

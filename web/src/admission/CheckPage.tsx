import { clsx } from 'clsx'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState, type FormEvent } from 'react'
import { useTranslation } from 'react-i18next'
import { door, recordings, Refused, sessions } from '../api/client'
import type { DoorPage } from '../contract.generated'
import { dayAndTime } from '../i18n'
import { media } from '../media/engine'
import { chosen, listDevices, missingAbilities, speakersDiffer } from '../media/devices'
import { OwnPicture } from '../picture/OwnPicture'
import { HeldRecordings } from '../recording/HeldRecordings'
import { LanguageChoice } from '../settings/LanguageChoice'
import { Button } from '../ui/Button'
import { Field, Select, Tick } from '../ui/Field'
import { Failure } from '../ui/Failure'
import { bringScreen, canCapture, dropBrought } from './brought'
import { keepEntryWish, rememberedName, rememberName } from './entry'
import { useCheck, VoiceCheck } from './VoiceCheck'
import { ScreenTitle } from '../ui/ScreenTitle'

interface Props {
  link: string
  page: DoorPage
  /** The server is out of reach, so the page may be out of date. */
  broken: boolean
  onInside: (sitting: string) => void
  onLocked: (words: string) => void
}

/** Before entry: see oneself, see that one is heard, say one's name; one button that says what will happen. */
export function CheckPage({ link, page, broken, onInside, onLocked }: Props) {
  const { t } = useTranslation()
  const host = page.hostName ?? t('farewell.theHost')
  const missing = missingAbilities()
  const check = useCheck(missing.length === 0)
  return (
    <div className="flex min-h-dvh flex-col">
      <header className="flex flex-wrap items-baseline gap-x-4 bg-felt px-6 py-3 text-on-felt">
        <p className="font-serif text-[1.25rem] font-semibold">{page.title}</p>
        <p className="text-[0.875rem] text-on-felt2">{t('check.with', { host })}</p>
        <p className="ml-auto">
          <LanguageChoice />
        </p>
      </header>
      <main
        className={clsx(
          'mx-auto grid w-full max-w-5xl flex-1 content-center gap-x-8 gap-y-5 px-4 py-6',
          'md:grid-cols-[minmax(0,1.25fr)_minmax(300px,1fr)]',
        )}
      >
        <ScreenTitle
          title={t('check.title')}
          page={page.title}
          className="font-serif text-[1.625rem] font-semibold md:col-span-2"
        />
        <div className="flex flex-col gap-3">
          <OwnPicture
            stream={check.camera}
            note={check.cameraFailure && !check.listenOnly ? t(`check.camera${check.cameraFailure}`) : t('check.pictureOff')}
          />
          {check.cameraFailure && !check.listenOnly && (
            <div>
              <Button small onClick={check.retry}>
                {t('common.retry')}
              </Button>
            </div>
          )}
          <VoiceCheck check={check} />
        </div>
        {page.phase !== 'open' && (
          <div className="md:order-last md:col-span-2">
            <HeldRecordings of={['link', link]} read={() => recordings.ofLink(link)} />
          </div>
        )}
        {page.cancelled ? (
          <Notice title={t('check.cancelled')} hint={t('check.cancelledHint', { host })} />
        ) : page.phase === 'over' ? (
          <Notice title={t('check.over')} hint={t('check.overHint', { host })} />
        ) : missing.length > 0 ? (
          <Notice title={t('check.unsupported')} hint={t('check.unsupportedHint', { parts: missing.join(', ') })} />
        ) : page.phase === 'notOpen' ? (
          <NotOpen link={link} page={page} broken={broken} />
        ) : (
          <EntryForm link={link} page={page} broken={broken} check={check} onInside={onInside} onLocked={onLocked} />
        )}
      </main>
    </div>
  )
}

function Notice({ title, hint }: { title: string; hint: string }) {
  return (
    <div role="status" className="self-start border border-l-[6px] border-line border-l-brass bg-paper p-5">
      <p className="font-serif text-[1.188rem] font-semibold">{title}</p>
      <p className="mt-1 text-[0.938rem] text-ink2">{hint}</p>
    </div>
  )
}

function NotOpen({ link, page, broken }: Pick<Props, 'link' | 'page' | 'broken'>) {
  const { t } = useTranslation()
  const queries = useQueryClient()
  const open = useMutation({
    mutationFn: (prepare: boolean) => sessions.open(page.session!, prepare),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['door', link] }),
  })
  return (
    <div className="flex flex-col gap-4">
      <Notice
        title={page.startsAt ? t('check.opensAt', { when: dayAndTime(page.startsAt) }) : t('check.notOpen')}
        hint={t('check.notOpenHint', { host: page.hostName ?? t('farewell.theHost') })}
      />
      {broken && (
        <p role="status" className="border-l-4 border-brick pl-3 text-[0.906rem]">
          {t('connection.doorLost')}
        </p>
      )}
      {page.session && (
        <div className="flex flex-wrap gap-2">
          <Button look="primary" disabled={open.isPending} onClick={() => open.mutate(false)}>
            {t('check.hostOpens')}
          </Button>
          <Button disabled={open.isPending} onClick={() => open.mutate(true)}>
            {t('prepare.first')}
          </Button>
          <Failure of={[open.error]} className="basis-full" />
        </div>
      )}
    </div>
  )
}

function EntryForm({ link, page, check, onInside, onLocked }: Props & { check: ReturnType<typeof useCheck> }) {
  const { t } = useTranslation()
  const [name, setName] = useState(page.knownName ?? rememberedName())
  const [passcode, setPasscode] = useState('')
  const [withKey, setWithKey] = useState(false)
  const asksCode = page.needsPasscode || withKey
  const announce = useMutation({
    mutationFn: () => door.announce(link, { name, passcode: asksCode ? passcode : null, invitation: null }),
    onSuccess: ({ sitting }) => onInside(sitting),
    onError: (error) => {
      if (error instanceof Refused && error.reason === 'doorLocked') onLocked(error.words ?? '')
    },
  })
  const [notChosen, setNotChosen] = useState(false)
  const enterAndShow = async () => {
    media.allowSound()
    const chose = await bringScreen()
    setNotChosen(!chose)
    if (chose) enter()
  }
  const submit = (event: FormEvent) => {
    event.preventDefault()
    dropBrought()
    enter()
  }
  const enter = () => {
    rememberName(name)
    keepEntryWish({
      camera: !check.listenOnly && check.cameraOn && !check.cameraFailure,
      microphone: !check.listenOnly && check.microphoneOn && !check.microphoneFailure,
    })
    // The click is what lets the browser play sound later.
    media.allowSound()
    announce.mutate()
  }
  const refused = announce.error instanceof Refused ? announce.error : null
  const onPasscode = refused?.reason.startsWith('passcode') ?? false
  return (
    <form onSubmit={submit} className="flex flex-col gap-3.5" noValidate>
      <Field
        label={t('check.name')}
        autoComplete="name"
        value={name}
        onChange={(e) => setName(e.target.value)}
        error={refused && !onPasscode ? refused.message : undefined}
      />
      {page.invitationGone && <p className="border-l-4 border-brass pl-3 text-[0.906rem]">{t('check.invitationGone')}</p>}
      {asksCode && (
        <Field
          label={t(page.hasHostKey ? 'check.passcodeOrKey' : 'check.passcode')}
          autoComplete="off"
          value={passcode}
          onChange={(e) => setPasscode(e.target.value)}
          error={onPasscode ? refused?.message : undefined}
        />
      )}
      {page.hasHostKey && !asksCode && (
        <Button small look="text" className="self-start" onClick={() => setWithKey(true)}>
          {t('check.haveHostKey')}
        </Button>
      )}
      <Devices check={check} />
      <div>
        {!check.listenOnly && (
          <>
            <Tick label={t('check.cameraOn')} checked={check.cameraOn} onChange={(e) => check.setCameraOn(e.target.checked)} />
            <Tick
              label={t('check.microphoneOn')}
              checked={check.microphoneOn}
              onChange={(e) => check.setMicrophoneOn(e.target.checked)}
            />
          </>
        )}
        <Tick label={t('check.listenOnly')} checked={check.listenOnly} onChange={(e) => check.setListenOnly(e.target.checked)} />
      </div>
      {page.onRecord !== 'no' && (
        <p className="border-l-4 border-plum bg-plum-soft px-3 py-1.5 text-[0.906rem]">
          {t(page.onRecord === 'asked' ? 'recording.beforeAsks' : 'recording.before')}
        </p>
      )}
      {page.lock?.lateWait && <p className="border-l-4 border-brass pl-3 text-[0.906rem]">{t('check.lockedNotice')}</p>}
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <Button look="primary" type="submit" disabled={announce.isPending} className="min-h-11 px-7 text-[1rem]">
          {announce.isPending ? t('check.entering') : t(`check.${page.entry}`)}
        </Button>
        <p className="flex-1 basis-40 text-[0.844rem] text-ink2">
          {t(
            {
              announce: 'check.announceHint',
              walkIn: 'check.walkInHint',
              enterAsHost: 'check.hostHint',
              enterAsDeputy: 'check.deputyHint',
            }[page.entry],
            { host: page.hostName ?? t('farewell.theHost') },
          )}
        </p>
        {(page.entry === 'enterAsHost' || page.entry === 'enterAsDeputy' || page.entry === 'walkIn') && canCapture && (
          <Button disabled={announce.isPending} onClick={() => void enterAndShow()}>
            {t('check.enterAndShow')}
          </Button>
        )}
        {notChosen && (
          <p role="alert" className="basis-full text-[0.844rem] font-medium text-brick">
            {t('exhibits.notChosen')}
          </p>
        )}
      </div>
    </form>
  )
}

export function Devices({ check }: { check: { devicesChanged: () => void; ready: boolean } }) {
  const { t } = useTranslation()
  // Until they are known their place is kept, so that nothing moves away under the hand.
  const [known, setDevices] = useState<Awaited<ReturnType<typeof listDevices>> | null>(null)
  const devices = known ?? { cameras: [], microphones: [], speakers: [] }
  useEffect(() => {
    void listDevices().then(setDevices)
  }, [check.ready])
  const choose = (kind: 'camera' | 'microphone' | 'speaker', id: string) => {
    chosen[kind] = id
    check.devicesChanged()
  }
  const option = (device: MediaDeviceInfo, number: number) => (
    <option key={device.deviceId} value={device.deviceId}>
      {device.label || t('check.device', { number: number + 1 })}
    </option>
  )
  return (
    <div className="grid gap-3 sm:grid-cols-2 md:grid-cols-1 lg:grid-cols-2">
      {(!known || devices.cameras.length > 0) && (
        <Select
          key={known ? 'camera' : 'no camera yet'}
          label={t('check.camera')}
          disabled={!known}
          defaultValue={chosen.camera}
          onChange={(e) => choose('camera', e.target.value)}
        >
          {devices.cameras.map(option)}
        </Select>
      )}
      {(!known || devices.microphones.length > 0) && (
        <Select
          key={known ? 'microphone' : 'no microphone yet'}
          disabled={!known}
          label={t('check.microphone')}
          defaultValue={chosen.microphone}
          onChange={(e) => choose('microphone', e.target.value)}
        >
          {devices.microphones.map(option)}
        </Select>
      )}
      {speakersDiffer && devices.speakers.length > 1 && (
        <Select label={t('check.speaker')} defaultValue={chosen.speaker} onChange={(e) => choose('speaker', e.target.value)}>
          {devices.speakers.map(option)}
        </Select>
      )}
    </div>
  )
}

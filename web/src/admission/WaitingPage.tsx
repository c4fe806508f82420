import { useEffect, useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { MeRow } from '../contract.generated'
import type { Sitting } from '../live/store'
import { useStartOf } from '../docket/outlook'
import { clock, timeOfDay } from '../i18n'
import { wish } from '../live/connection'
import { Notices } from '../sittings/Notices'
import { useNow } from '../live/time'
import { openCamera } from '../media/devices'
import { isRecorded } from '../recording/words'
import { OwnPicture } from '../picture/OwnPicture'
import { Button } from '../ui/Button'
import { wantsCamera } from './entry'
import { useCheck, VoiceCheck } from './VoiceCheck'
import { ScreenTitle } from '../ui/ScreenTitle'

/** The lobby, from inside it. */
export function WaitingPage({ me, sitting }: { me: MeRow; sitting: Sitting }) {
  const { t } = useTranslation()
  const now = useNow()
  const camera = useMirror()
  const [testing, setTesting] = useState(false)
  const start = useStartOf(me.seat)
  const host = sitting.session.hostName ?? t('farewell.theHost')
  return (
    <div className="flex min-h-dvh flex-col">
      <header className="bg-felt px-6 py-3 font-serif text-[1.25rem] font-semibold text-on-felt">{sitting.session.title}</header>
      <Notices />
      <main className="mx-auto grid w-full max-w-4xl flex-1 content-center gap-8 px-4 py-8 md:grid-cols-2">
        <section className="border border-l-8 border-line border-l-brass bg-paper p-6">
          <ScreenTitle
            title={t('waiting.title')}
            page={sitting.session.title}
            className="font-serif text-[1.625rem] leading-tight font-semibold"
          />
          <p className="mt-3 text-[1.031rem] leading-relaxed">
            {sitting.session.phase === 'prepare'
              ? t('waiting.prepare', { host, title: sitting.session.title })
              : t('waiting.lead', { host, name: me.name })}
          </p>
          {isRecorded(sitting.recording) && (
            <p className="mt-3 border-l-4 border-plum bg-plum-soft px-3 py-1.5 text-[0.938rem]">
              {t(sitting.recording.rules.asksConsent ? 'recording.beforeAsks' : 'recording.before')}
            </p>
          )}
          <div role="status">
            {start && (
              <p className="mt-3 border-l-2 border-brass pl-3 text-[1rem]">
                {t('waiting.forecast', { time: timeOfDay(start.at), from: timeOfDay(start.from), to: timeOfDay(start.to) })}
              </p>
            )}
            {sitting.door.notice && sitting.door.notice.at >= me.since - 3_600_000 && (
              <figure className="mt-4 border-l-2 border-brass pl-3">
                <figcaption className="text-[0.844rem] text-ink2">
                  {t('waiting.notice', { host, time: timeOfDay(sitting.door.notice.at) })}
                </figcaption>
                <blockquote className="font-serif text-[1.125rem] whitespace-pre-line">{sitting.door.notice.words}</blockquote>
              </figure>
            )}
          </div>
          <p className="mt-4 font-serif text-[1.25rem]">{t('waiting.since', { time: clock(now - me.since) })}</p>
          <p className="mt-2 text-[0.906rem] text-ink2">{t('waiting.stay')}</p>
          <Button className="mt-6" onClick={() => void wish({ do: 'leave' })}>
            {t('waiting.leave')}
          </Button>
        </section>
        <div>
          <OwnPicture stream={camera} note={t('check.pictureOff')} />
          <p className="mt-2 mb-3 text-[0.844rem] text-ink2">{t('waiting.tidy')}</p>
          {testing ? <DeviceTest /> : <Button onClick={() => setTesting(true)}>{t('waiting.test')}</Button>}
        </div>
      </main>
    </div>
  )
}

/** Opens the microphone only for somebody who wants to test it. */
function DeviceTest() {
  return <VoiceCheck check={useCheck(true)} />
}

function useMirror() {
  const [stream, setStream] = useState<MediaStream | null>(null)
  useEffect(() => {
    if (!wantsCamera()) return
    let over = false
    let opened: MediaStream | null = null
    const close = () => opened?.getTracks().forEach((track) => track.stop())
    openCamera().then(
      (camera) => {
        opened = camera
        if (over) close()
        else setStream(camera)
      },
      () => undefined,
    )
    return () => {
      over = true
      close()
    }
  }, [])
  return stream
}

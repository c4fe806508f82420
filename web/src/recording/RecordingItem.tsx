import { useEffect, useRef } from 'react'
import { useTranslation } from 'react-i18next'
import type { Framing, MeRow, RecordingRules, Watchers } from '../contract.generated'
import { clock } from '../i18n'
import { wish } from '../live/connection'
import { useLive, type Sitting } from '../live/store'
import { useTrouble } from '../people/trouble'
import { usePanel } from '../sittings/panels'
import { RibbonItem } from '../sittings/RibbonItem'
import { Button } from '../ui/Button'
import { Choice } from '../ui/Choice'
import { Tick } from '../ui/Field'
import { FramingPreview } from './FramingPreview'
import { OwnRecordingPanel } from '../ownRecording/OwnRecordingPanel'
import { OwnRecorders } from './OwnRecorders'
import { isRecorded, useRecorded } from './words'

interface Props {
  me: MeRow
  sitting: Sitting
}

const framings: readonly Framing[] = ['lead', 'even', 'exhibit', 'sound']
const watchers: readonly Watchers[] = ['bench', 'present', 'invited']

/** Whether it is recorded, how, for whom, and who is in it. */
export function RecordingItem({ me, sitting }: Props) {
  const { t } = useTranslation()
  const { recording } = sitting
  const recorded = useRecorded(recording)
  const stands = useTrouble((state) => state.standsSince) !== null && recording.phase === 'running'
  const value = recording.missing
    ? t('recording.missing')
    : stands
      ? t('recording.standsStill')
      : recording.phase === 'running'
        ? recording.runsSince === null
          ? t('recording.rests', { time: clock(recorded) })
          : clock(recorded)
        : recording.phase === 'paused'
          ? t('recording.paused', { time: clock(recorded) })
          : recording.own.length > 0
            ? t('ownRecording.short', { count: recording.own.length })
            : t('recording.off')
  return (
    <RibbonItem
      label={t('recording.title')}
      value={value}
      title={t('recording.title')}
      onRecord={isRecorded(recording)}
      unusual={recording.missing || stands}
      medium
      {...usePanel('recording')}
    >
      <div className="flex flex-col gap-4">
        <Switches sitting={sitting} />
        <FilmRules rules={recording.rules} sitting={sitting} />
        <WhoIsIn />
        <OwnRecorders own={recording.own} />
        {me.may.includes('recordOwn') && <OwnRecordingPanel me={me} sitting={sitting} />}
      </div>
    </RibbonItem>
  )
}

/** How long the disk will do, where that is not long. */
function Room() {
  const { t } = useTranslation()
  const stands = useTrouble((state) => state.standsSince) !== null
  const minutes = useTrouble((state) => state.roomFor)
  if (stands)
    return (
      <p role="status" className="border-l-4 border-brick pl-2 text-[0.875rem] font-medium">
        {t('recording.standsStillHint')}
      </p>
    )
  if (minutes === null) return null
  return (
    <p className={minutes < 60 ? 'border-l-4 border-brick pl-2 text-[0.875rem]' : 'text-[0.812rem] text-ink2'}>
      {minutes < 15 ? t('recording.roomGone') : t('recording.roomFor', { time: t('common.minutes', { count: minutes }) })}
    </p>
  )
}

function Switches({ sitting }: { sitting: Sitting }) {
  const { t } = useTranslation()
  const { phase, missing, rules } = sitting.recording
  const rests = sitting.session.phase !== 'inSession'
  return (
    <div className="flex flex-col gap-2">
      {missing && <p className="border-l-4 border-brass pl-2 text-[0.875rem]">{t('recording.missingHint')}</p>}
      <div className="flex flex-wrap gap-2">
        {phase === 'running' ? (
          <Button look="primary" onClick={() => void wish({ do: 'pauseRecording' })}>
            {t('recording.pause')}
          </Button>
        ) : phase === 'paused' ? (
          <Button look="primary" disabled={rests} onClick={() => void wish({ do: 'resumeRecording' })}>
            {t('recording.goOn')}
          </Button>
        ) : (
          <>
            <Button look="primary" disabled={rests} onClick={() => void wish({ do: 'startRecording' })}>
              {t('recording.start')}
            </Button>
            {phase === 'stopped' && (
              <Button disabled={rests} onClick={() => void wish({ do: 'resumeRecording' })}>
                {t('recording.goOnWithLast')}
              </Button>
            )}
          </>
        )}
        {(phase === 'running' || phase === 'paused') && (
          <Button onClick={() => void wish({ do: 'stopRecording' })}>{t('recording.stop')}</Button>
        )}
      </div>
      <Room />
      <p className="text-[0.812rem] text-ink2">
        {rests && phase !== 'running'
          ? t('recording.notNow')
          : phase === 'stopped'
            ? t('recording.stoppedHint')
            : t(rules.asksConsent ? 'recording.startAsksHint' : 'recording.startTellsHint')}
      </p>
    </div>
  )
}

function FilmRules({ rules, sitting }: { rules: RecordingRules; sitting: Sitting }) {
  const { t } = useTranslation()
  // Two that are changed one right after the other must not undo each other.
  const latest = useRef(rules)
  useEffect(() => {
    latest.current = rules
  }, [rules])
  const set = (change: Partial<RecordingRules>) => {
    latest.current = { ...latest.current, ...change }
    void wish({ do: 'setRecordingRules', to: latest.current })
  }
  const visits = sitting.visits.hasSlots
  return (
    <>
      <section className="border-t border-line pt-3">
        <h3 className="font-serif text-[0.938rem] font-semibold">{t('recording.film')}</h3>
        <div className="grid gap-x-5 sm:grid-cols-2">
          <div>
            <Choice<Framing>
              label={t('recording.film')}
              value={rules.framing}
              options={framings.map((value) => ({
                value,
                label: t(`recording.framingName.${value}`),
                hint: t(`recording.framing.${value}`),
              }))}
              onChange={(framing) => set({ framing })}
            />
          </div>
          <div className="flex flex-col gap-2 pt-2">
            <FramingPreview framing={rules.framing} names={rules.names} />
            <p className="text-[0.812rem] text-ink2">{t('recording.previewHint')}</p>
            <Tick label={t('recording.names')} checked={rules.names} onChange={(e) => set({ names: e.target.checked })} />
            <Tick
              label={t('recording.questions')}
              checked={rules.questions}
              onChange={(e) => set({ questions: e.target.checked })}
            />
          </div>
        </div>
      </section>
      <section className="grid gap-x-5 gap-y-3 border-t border-line pt-3 sm:grid-cols-2">
        <div>
          <h3 className="font-serif text-[0.938rem] font-semibold">{t('recording.people')}</h3>
          <Tick
            label={t('recording.asks')}
            checked={rules.asksConsent}
            onChange={(e) => set({ asksConsent: e.target.checked })}
          />
          <p className="mt-1 text-[0.812rem] text-ink2">{t(rules.asksConsent ? 'recording.asksHint' : 'recording.tellsHint')}</p>
        </div>
        <div>
          <h3 className="font-serif text-[0.938rem] font-semibold">{t('recording.forWhom')}</h3>
          {visits ? (
            <p className="text-[0.875rem]">{t('recording.visitsHint')}</p>
          ) : (
            <Choice<Watchers>
              label={t('recording.forWhom')}
              value={rules.watchers}
              options={watchers.map((value) => ({ value, label: t(`recording.watchersName.${value}`) }))}
              onChange={(to) => set({ watchers: to })}
            />
          )}
        </div>
      </section>
    </>
  )
}

/** Who agreed, who is left out, and of whom nothing is known yet. */
function WhoIsIn() {
  const { t } = useTranslation()
  const seats = useLive((state) => state.seats)
  const inside = [...seats.values()].filter((seat) => seat.place === 'seated')
  const agreed = inside.filter((seat) => seat.note?.recordingAnswer === 'agreed')
  const out = inside.filter((seat) => seat.note?.recordingAnswer === 'unrecorded')
  const silent = inside.filter((seat) => seat.note && seat.note.recordingAnswer === null)
  const rows = [
    ['recording.agreed', agreed],
    ['recording.leftOut', out],
    ['recording.silent', silent],
  ] as const
  return (
    <section className="border-t border-line pt-3">
      <h3 className="font-serif text-[0.938rem] font-semibold">{t('recording.who')}</h3>
      <dl className="mt-1 flex flex-col gap-1 text-[0.875rem]">
        {rows
          .filter(([, people]) => people.length > 0)
          .map(([label, people]) => (
            <div key={label} className="flex gap-2">
              <dt className="w-36 shrink-0 text-ink2">{t(label, { count: people.length })}</dt>
              <dd className="min-w-0">{people.map((seat) => seat.name).join(', ')}</dd>
            </div>
          ))}
      </dl>
    </section>
  )
}

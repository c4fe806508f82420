import { useTranslation } from 'react-i18next'
import type { MeRow } from '../contract.generated'
import { clock } from '../i18n'
import { wish } from '../live/connection'
import { RibbonItem } from '../sittings/RibbonItem'
import { Button } from '../ui/Button'
import type { Sitting } from '../live/store'
import { OwnRecordingPanel } from '../ownRecording/OwnRecordingPanel'
import { OwnRecorders } from './OwnRecorders'
import { isOn, isRecorded, useRecorded } from './words'

/** Never leaves the screen while it is recorded; opens onto what one may say about it. */
export function RecordedMark({ me, sitting }: { me: MeRow; sitting: Sitting }) {
  const { t } = useTranslation()
  const { recording } = sitting
  const recorded = useRecorded(recording)
  const mayOwn = me.may.includes('recordOwn')
  if (!isRecorded(recording) && !mayOwn) return null
  const out = me.recordingAnswer === 'unrecorded' || (recording.rules.asksConsent && me.recordingAnswer !== 'agreed')
  const answer = (to: 'agreed' | 'unrecorded', whole = false) => void wish({ do: 'answerRecording', answer: to, whole })
  return (
    <RibbonItem
      label={t('recording.title')}
      value={
        !isRecorded(recording)
          ? t('recording.off')
          : out
            ? t('recording.withoutYou')
            : !isOn(recording)
              ? t('ownRecording.short', { count: recording.own.length })
              : recording.runsSince === null
                ? t('recording.paused', { time: clock(recorded) })
                : clock(recorded)
      }
      title={t('recording.title')}
      onRecord={isRecorded(recording)}
    >
      <div className="flex flex-col gap-2 text-[0.875rem]">
        <OwnRecorders own={recording.own} />
        {isRecorded(recording) && (
          <>
            <p>{t(out ? 'recording.youAreOut' : 'recording.youAreIn')}</p>
            {isOn(recording) && <p className="text-ink2">{t(`recording.seenBy.${recording.rules.watchers}`)}</p>}
            {out ? (
              <Button onClick={() => answer('agreed')}>{t('recording.agree')}</Button>
            ) : (
              <Button onClick={() => answer('unrecorded')}>{t('recording.beUnrecordedFromNow')}</Button>
            )}
            {isOn(recording) && (
              <>
                <Button look="text" className="self-start" onClick={() => answer('unrecorded', true)}>
                  {t('recording.takeOutAll')}
                </Button>
                <p className="text-[0.812rem] text-ink2">{t('recording.takeOutHint')}</p>
              </>
            )}
          </>
        )}
        {mayOwn && <OwnRecordingPanel me={me} sitting={sitting} />}
      </div>
    </RibbonItem>
  )
}

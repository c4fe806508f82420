import { useTranslation } from 'react-i18next'
import type { MeRow, RecordingFacet } from '../contract.generated'
import { clock } from '../i18n'
import { wish } from '../live/connection'
import { RibbonItem } from '../sittings/RibbonItem'
import { Button } from '../ui/Button'
import { isOn, useRecorded } from './words'

/** Never leaves the screen while it is recorded; opens onto what one may say about it. */
export function RecordedMark({ me, recording }: { me: MeRow; recording: RecordingFacet }) {
  const { t } = useTranslation()
  const recorded = useRecorded(recording)
  if (!isOn(recording)) return null
  const out = me.recordingAnswer === 'unrecorded' || (recording.rules.asksConsent && me.recordingAnswer !== 'agreed')
  const answer = (to: 'agreed' | 'unrecorded', whole = false) => void wish({ do: 'answerRecording', answer: to, whole })
  return (
    <RibbonItem
      label={t('recording.title')}
      value={
        out
          ? t('recording.withoutYou')
          : recording.runsSince === null
            ? t('recording.paused', { time: clock(recorded) })
            : clock(recorded)
      }
      title={t('recording.title')}
      onRecord
    >
      <div className="flex flex-col gap-2 text-[0.875rem]">
        <p>{t(out ? 'recording.youAreOut' : 'recording.youAreIn')}</p>
        <p className="text-ink2">{t(`recording.seenBy.${recording.rules.watchers}`)}</p>
        {out ? (
          <Button onClick={() => answer('agreed')}>{t('recording.agree')}</Button>
        ) : (
          <Button onClick={() => answer('unrecorded')}>{t('recording.beUnrecordedFromNow')}</Button>
        )}
        <Button look="text" className="self-start" onClick={() => answer('unrecorded', true)}>
          {t('recording.takeOutAll')}
        </Button>
        <p className="text-[0.812rem] text-ink2">{t('recording.takeOutHint')}</p>
      </div>
    </RibbonItem>
  )
}

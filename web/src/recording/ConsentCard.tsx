import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { MeRow } from '../contract.generated'
import { wish } from '../live/connection'
import type { Sitting } from '../live/store'
import { Button } from '../ui/Button'
import { OwnRecorders } from './OwnRecorders'
import { isOn, isRecorded } from './words'

/** Says that it is recorded, for whom, and takes one's answer. It stays until one has given one, or has put it aside. */
export function ConsentCard({ me, sitting: { recording } }: { me: MeRow; sitting: Sitting }) {
  const { t } = useTranslation()
  const [aside, setAside] = useState<number | null>(null)
  if (!isRecorded(recording) || me.recordingAnswer !== null || aside === recording.number) return null
  const asks = recording.rules.asksConsent
  const answer = (to: 'agreed' | 'unrecorded') => void wish({ do: 'answerRecording', answer: to })
  return (
    <section
      role="alert"
      aria-label={t('recording.cardTitle')}
      className="flex flex-wrap items-center gap-x-4 gap-y-2 border border-l-[5px] border-line border-l-plum bg-plum-soft px-4 py-2.5"
    >
      <div className="min-w-60 flex-1">
        <h2 className="font-serif text-[1.062rem] font-semibold">{t('recording.cardTitle')}</h2>
        <p className="text-[0.875rem]">
          {t(asks ? 'recording.cardAsks' : 'recording.cardTells')}{' '}
          {isOn(recording) && t(`recording.seenBy.${recording.rules.watchers}`)}
        </p>
        <OwnRecorders own={recording.own} />
      </div>
      <div className="flex flex-wrap gap-2">
        <Button look="primary" onClick={() => answer('agreed')}>
          {t('recording.agree')}
        </Button>
        <Button onClick={() => answer('unrecorded')}>{t('recording.beUnrecorded')}</Button>
        <Button look="text" onClick={() => setAside(recording.number)}>
          {t('recording.later')}
        </Button>
      </div>
    </section>
  )
}

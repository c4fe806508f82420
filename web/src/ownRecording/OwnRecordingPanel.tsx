import { useTranslation } from 'react-i18next'
import type { MeRow } from '../contract.generated'
import { clock } from '../i18n'
import { wish } from '../live/connection'
import type { Sitting } from '../live/store'
import { useNow } from '../live/time'
import { Button } from '../ui/Button'
import { KeptFilms } from './KeptFilms'
import { beginOwnFilm, endOwnFilm, lacks, pauseOwnFilm, useOwnFilm } from './ownFilm'

/** Recording on one's own machine: begin, pause, go on, end, and what lies in this browser. */
export function OwnRecordingPanel({ me, sitting }: { me: MeRow; sitting: Sitting }) {
  const { t } = useTranslation()
  const { phase, recorded, since, name } = useOwnFilm()
  useNow()
  const missing = lacks()
  const { rules, own } = sitting.recording
  const elsewhere = phase === 'off' && own.some((one) => one.seat === me.seat)
  return (
    <section className="flex flex-col gap-2 border-t border-line pt-3" aria-label={t('ownRecording.title')}>
      <h3 className="font-serif text-[0.938rem] font-semibold">{t('ownRecording.title')}</h3>
      {missing.length > 0 ? (
        <p className="border-l-4 border-brass pl-2 text-[0.875rem]">
          {missing.map((one) => t(`ownRecording.lacks.${one}`)).join(' ')} {t('ownRecording.lacksHint')}
        </p>
      ) : (
        <>
          <div className="flex flex-wrap items-center gap-2">
            {phase === 'off' ? (
              <Button
                onClick={() =>
                  void beginOwnFilm(sitting.session.title, { names: rules.names, pictures: rules.framing !== 'sound' })
                }
              >
                {t('ownRecording.begin')}
              </Button>
            ) : (
              <>
                <b className="min-w-14 text-plum tabular-nums" data-testid="own-recorded">
                  {/* eslint-disable-next-line react-hooks/purity -- renewed each second */}
                  {clock(recorded + (since === null ? 0 : performance.now() - since))}
                </b>
                <Button disabled={phase === 'begins' || phase === 'ends'} onClick={() => pauseOwnFilm(phase === 'running')}>
                  {t(phase === 'paused' ? 'recording.goOn' : 'recording.pause')}
                </Button>
                <Button
                  disabled={phase === 'begins' || phase === 'ends'}
                  onClick={() => void endOwnFilm().then(() => wish({ do: 'endOwnRecording' }))}
                >
                  {t('ownRecording.end')}
                </Button>
              </>
            )}
            {elsewhere && (
              <Button look="text" onClick={() => void wish({ do: 'endOwnRecording' })}>
                {t('ownRecording.endElsewhere')}
              </Button>
            )}
          </div>
          <p className="text-[0.812rem] text-ink2">{t('ownRecording.hint')}</p>
        </>
      )}
      <KeptFilms writing={phase === 'off' ? null : name} />
    </section>
  )
}

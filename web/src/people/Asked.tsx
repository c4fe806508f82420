import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { MeRow } from '../contract.generated'
import { wish } from '../live/connection'
import { useLive, type Sitting } from '../live/store'
import { media } from '../media/engine'
import { Button } from '../ui/Button'
import { Tick } from '../ui/Field'

/** The bench's question, to be answered in place. */
export function Asked({ me, sitting }: { me: MeRow; sitting: Sitting }) {
  const host = sitting.session.hostName
  const { t } = useTranslation()
  const [consent, setConsent] = useState(false)
  const floor = useLive((state) => state.sitting?.floor.turn?.seat === me.seat)
  if (!me.asked) return null
  const answer = (agree: boolean) => {
    if (agree) media.allowSound()
    void wish({ do: 'answerUnmute', agree, consent })
  }
  return (
    <section
      role="alert"
      className="flex flex-wrap items-center gap-x-4 gap-y-2 border border-l-[5px] border-line border-l-brass bg-brass-soft px-4 py-2.5"
    >
      <h2 className="font-serif text-[1.062rem] font-semibold">
        {floor ? t('floor.yours') : t('asked.title', { host: host ?? t('asked.bench') })}
      </h2>
      <Button look="primary" onClick={() => answer(true)}>
        {t('asked.yes')}
      </Button>
      <Button onClick={() => answer(false)}>{t('asked.no')}</Button>
      <Tick label={t('asked.consent')} checked={consent} onChange={(e) => setConsent(e.target.checked)} />
    </section>
  )
}

import { useTranslation } from 'react-i18next'
import { Link } from 'react-router'
import { readingAddress, recordings, sittingAddress } from '../api/client'
import { KeptFilms } from '../ownRecording/KeptFilms'
import { HeldRecordings } from '../recording/HeldRecordings'
import { clock } from '../i18n'
import { Button } from '../ui/Button'
import { Placard, Words } from '../ui/Placard'

interface Props {
  title: string
  host: string | null
}

export function LockedDoor({ title, host, words, onAgain }: Props & { words: string; onAgain: () => void }) {
  const { t } = useTranslation()
  const who = host ?? t('farewell.theHost')
  return (
    <Placard title={t('farewell.lockedTitle')} spine="brick">
      <p>{t('farewell.lockedLead', { title })}</p>
      {words && <Words by={t('farewell.lockedWords', { host: who })}>{words}</Words>}
      <p className="text-ink2">{t('farewell.lockedHint')}</p>
      <div>
        <Button look="primary" onClick={onAgain}>
          {t('farewell.tryAgain')}
        </Button>
      </div>
    </Placard>
  )
}

export function Barred({ title, host }: Props) {
  const { t } = useTranslation()
  return (
    <Placard title={t('farewell.barredTitle')} spine="brick">
      <p>{t('farewell.barredLead', { title })}</p>
      <p className="text-ink2">{t('farewell.barredHint', { host: host ?? t('farewell.theHost') })}</p>
    </Placard>
  )
}

export function DeclinedPage({ title, host, words, onAgain }: Props & { words: string | null; onAgain: () => void }) {
  const { t } = useTranslation()
  const who = host ?? t('farewell.theHost')
  return (
    <Placard title={t('farewell.declinedTitle')} spine="brick">
      <p>{t('farewell.declinedLead', { host: who, title })}</p>
      {words && <Words by={t('farewell.declinedWords', { host: who })}>{words}</Words>}
      <p className="text-ink2">{t('farewell.declinedHint')}</p>
      <div>
        <Button onClick={onAgain}>{t('farewell.again')}</Button>
      </div>
    </Placard>
  )
}

export function RemovedPage({ title, host, forGood, onAgain }: Props & { forGood: boolean; onAgain: () => void }) {
  const { t } = useTranslation()
  if (forGood) return <Barred title={title} host={host} />
  return (
    <Placard title={t('farewell.removedTitle')} spine="brick">
      <p>{t('farewell.removedLead', { title })}</p>
      <p className="text-ink2">{t('farewell.removedHint')}</p>
      <div>
        <Button onClick={onAgain}>{t('farewell.again')}</Button>
      </div>
    </Placard>
  )
}

export function VisitOverPage({ title, host, onAgain }: Props & { onAgain: () => void }) {
  const { t } = useTranslation()
  return (
    <Placard title={t('farewell.visitOverTitle')}>
      <p>{t('farewell.visitOverLead', { title, host: host ?? t('farewell.theHost') })}</p>
      <p className="text-ink2">{t('farewell.visitOverHint')}</p>
      <div>
        <Button onClick={onAgain}>{t('farewell.again')}</Button>
      </div>
    </Placard>
  )
}

export function LeftPage({ title, isHost, onAgain }: { title: string; isHost: boolean; onAgain: () => void }) {
  const { t } = useTranslation()
  return (
    <Placard title={t('farewell.leftTitle')}>
      <p>{t('farewell.leftLead', { title })}</p>
      <p className="text-ink2">{t('farewell.leftHint')}</p>
      <div className="flex items-center gap-4">
        <Button look="primary" onClick={onAgain}>
          {t('farewell.comeBack')}
        </Button>
        {isHost && <ToToday />}
      </div>
    </Placard>
  )
}

interface Adjourned {
  id: string
  title: string
  lasted: number
  isHost: boolean
  /** There are results for this reader to save. */
  polls: boolean
  /** People were in rooms, and this reader may save who was where. */
  rounds: boolean
}

export function AdjournedPage({ id, title, lasted, isHost, polls, rounds }: Adjourned) {
  const { t } = useTranslation()
  return (
    <Placard title={t('farewell.adjournedTitle')}>
      <p>{t('farewell.adjournedLead', { title, time: clock(lasted) })}</p>
      <p>
        <a
          href={readingAddress(id, 'chat.txt')}
          download
          className="inline-flex min-h-6 items-center underline underline-offset-4"
        >
          {t('farewell.saveChat')}
        </a>
      </p>
      {[polls && (['polls.csv', 'farewell.savePolls'] as const), rounds && (['rounds.csv', 'rooms.saveRounds'] as const)].map(
        (one) =>
          one && (
            <p key={one[0]}>
              <a
                href={sittingAddress(id, one[0])}
                download
                className="inline-flex min-h-6 items-center underline underline-offset-4"
              >
                {t(one[1])}
              </a>
            </p>
          ),
      )}
      <HeldRecordings of={['sitting', id]} read={() => recordings.ofSitting(id)} />
      <KeptFilms />
      {isHost ? (
        <p>
          <ToToday />
        </p>
      ) : (
        <p className="text-ink2">{t('farewell.adjournedHint')}</p>
      )}
    </Placard>
  )
}

export function SupersededPage({ title, onTake }: { title: string; onTake: () => void }) {
  const { t } = useTranslation()
  return (
    <Placard title={t('farewell.supersededTitle')} spine="brass">
      <p>{t('farewell.supersededLead', { title })}</p>
      <p className="text-ink2">{t('farewell.supersededHint')}</p>
      <div>
        <Button look="primary" onClick={onTake}>
          {t('farewell.takeSeat')}
        </Button>
      </div>
    </Placard>
  )
}

function ToToday() {
  const { t } = useTranslation()
  return (
    <Link to="/" className="inline-flex min-h-6 items-center font-semibold text-felt-ink underline underline-offset-4">
      {t('farewell.today')}
    </Link>
  )
}

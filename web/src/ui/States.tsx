import { useTranslation } from 'react-i18next'
import { Link, Navigate, useLocation } from 'react-router'
import { Refused } from '../api/client'
import { Button } from './Button'
import { Placard } from './Placard'

export function Loading() {
  const { t } = useTranslation()
  return (
    <main className="grid min-h-dvh place-items-center text-ink2" aria-busy="true">
      <h1 className="font-serif text-[1.125rem]">{t('common.loading')}</h1>
    </main>
  )
}

/**
 * Sends to the sign-in page, which leads back here, and says that something comes until it has arrived: a redirect by
 * itself draws nothing.
 */
export function ToSignIn() {
  const { pathname } = useLocation()
  return (
    <>
      <Navigate to="/sign-in" state={{ back: pathname }} replace />
      <Loading />
    </>
  )
}

export const isSignedOut = (error: Error) => error instanceof Refused && error.reason === 'signInNeeded'

/** Instead of a page of the desk that could not be fetched. */
export function NotFetched({ error, onRetry }: { error: Error; onRetry: () => void }) {
  if (isSignedOut(error)) return <ToSignIn />
  return <Failed sentence={error.message} onRetry={onRetry} />
}

export function Failed({ sentence, onRetry }: { sentence: string; onRetry: () => void }) {
  const { t } = useTranslation()
  return (
    <Placard title={sentence} spine="brick">
      <div>
        <Button look="primary" onClick={onRetry}>
          {t('common.retry')}
        </Button>
      </div>
    </Placard>
  )
}

export function NothingHere() {
  const { t } = useTranslation()
  return (
    <Placard title={t('reason.noSuchAddress')} spine="brick">
      <Link to="/" className="underline">
        {t('farewell.today')}
      </Link>
    </Placard>
  )
}

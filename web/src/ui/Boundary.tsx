import type { ReactNode } from 'react'
import { ErrorBoundary, type FallbackProps } from 'react-error-boundary'
import { useTranslation } from 'react-i18next'
import { pageFailures } from '../api/client'
import { Button } from './Button'
import { Placard } from './Placard'

/** The parts of a page that can fail by themselves; their names stand in the catalogue. */
export type Place = 'page' | 'ribbon' | 'board' | 'picture' | 'strip' | 'side' | 'card'

interface Props {
  place: Place
  children: ReactNode
  /** What must not go on unseen, once the part that shows it is gone. */
  onFailure?: () => void
}

/** A part of the page that could not be fetched: after an upgrade it is not there any more. */
const wasNotFetched = (error: unknown) =>
  error instanceof Error && /dynamically imported module|module script|Load failed/i.test(error.message)

/** Where drawing something fails, that is said in its place, everything else works, and the server counts it, without anybody's words. */
export function Boundary({ place, children, onFailure }: Props) {
  return (
    <ErrorBoundary
      onError={(error) => {
        onFailure?.()
        void pageFailures.tell(place, error instanceof Error ? error.name : 'Error').catch(() => undefined)
      }}
      fallbackRender={(props) => <NotDrawn place={place} {...props} />}
    >
      {children}
    </ErrorBoundary>
  )
}

function NotDrawn({ place, error, resetErrorBoundary }: FallbackProps & { place: Place }) {
  const { t } = useTranslation()
  const old = wasNotFetched(error)
  const sentence = t(old ? 'boundary.notFetched' : `boundary.${place}`)
  const again = (
    <Button small={place !== 'page'} look="primary" onClick={() => (old ? location.reload() : resetErrorBoundary())}>
      {t(old ? 'boundary.load' : 'common.retry')}
    </Button>
  )
  if (place === 'page')
    return (
      <Placard title={sentence} spine="brick">
        <p>{t('boundary.pageHint')}</p>
        <div>{again}</div>
      </Placard>
    )
  return (
    <div
      role="alert"
      className={`flex items-center gap-3 border-l-4 border-brick bg-paper px-3 py-2 text-[0.906rem] text-ink ${
        place === 'picture' || place === 'board' || place === 'side' ? 'min-w-0 flex-1 flex-col items-start py-4' : 'flex-wrap'
      }`}
    >
      <p className="font-medium">{sentence}</p>
      {again}
    </div>
  )
}

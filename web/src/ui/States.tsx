import { useTranslation } from 'react-i18next'
import { Link } from 'react-router'
import { Button } from './Button'
import { Sheet } from './Sheet'

export function Loading() {
  const { t } = useTranslation()
  return (
    <main className="grid min-h-dvh place-items-center text-ink2" aria-busy="true">
      <h1 className="font-serif text-[1.125rem]">{t('common.loading')}</h1>
    </main>
  )
}

export function Failed({ sentence, onRetry }: { sentence: string; onRetry: () => void }) {
  const { t } = useTranslation()
  return (
    <Sheet title={sentence} spine="brick">
      <div>
        <Button look="primary" onClick={onRetry}>
          {t('common.retry')}
        </Button>
      </div>
    </Sheet>
  )
}

export function NothingHere() {
  const { t } = useTranslation()
  return (
    <Sheet title={t('reason.noSuchAddress')} spine="brick">
      <Link to="/" className="underline">
        {t('farewell.today')}
      </Link>
    </Sheet>
  )
}

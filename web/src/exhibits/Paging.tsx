import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { ExhibitRow, MeRow } from '../contract.generated'
import { wish } from '../live/connection'
import { Button } from '../ui/Button'

/** Turns the pages of an exhibit, for all or for oneself, and says who does. */
export function Paging({
  exhibit,
  me,
  page,
  turnTo,
  apart,
  back,
  leads,
}: {
  exhibit: ExhibitRow
  me: MeRow
  page: number
  /** Null for whoever may not turn pages. */
  turnTo: ((page: number) => void) | null
  apart: boolean
  back: () => void
  leads: boolean
}) {
  const { t } = useTranslation()
  const pages = exhibit.pages!
  const mayTake = !leads && (exhibit.by === me.seat || me.may.includes('keepExhibits'))
  return (
    <span className="flex flex-wrap items-center gap-1.5 text-[0.781rem] max-md:flex-nowrap">
      {turnTo && pages.count > 1 ? (
        <>
          <Button
            small
            aria-label={t(leads ? 'exhibits.pageBefore' : 'exhibits.pageBeforeAlone')}
            disabled={page === 1}
            onClick={() => turnTo(page - 1)}
          >
            ←
          </Button>
          <PageNumber key={page} page={page} count={pages.count} turnTo={turnTo} />
          <Button
            small
            aria-label={t(leads ? 'exhibits.pageAfter' : 'exhibits.pageAfterAlone')}
            disabled={page === pages.count}
            onClick={() => turnTo(page + 1)}
          >
            →
          </Button>
        </>
      ) : (
        pages.count > 1 && <span>{t('exhibits.pageOf', { page, of: pages.count })}</span>
      )}
      {leads && exhibit.kind === 'sheet' && (
        <Button small onClick={() => void wish({ do: 'addPage', exhibit: exhibit.number })}>
          {t('exhibits.addPage')}
        </Button>
      )}
      {!leads && pages.count > 1 && pages.holderName && (
        <span className="text-ink2 @max-xl:hidden">{t('exhibits.turnedBy', { name: pages.holderName })}</span>
      )}
      {mayTake && (
        <Button small onClick={() => void wish({ do: 'handPaging', to: me.seat, exhibit: exhibit.number })}>
          {t('exhibits.takePaging')}
        </Button>
      )}
      {apart && (
        <Button small look="primary" onClick={back}>
          {page === pages.at ? t('exhibits.backToAll') : t('exhibits.backTo', { page: pages.at })}
        </Button>
      )}
    </span>
  )
}

function PageNumber({ page, count, turnTo }: { page: number; count: number; turnTo: (page: number) => void }) {
  const { t } = useTranslation()
  const [typed, setTyped] = useState(String(page))
  return (
    <label className="flex items-center gap-1">
      <input
        inputMode="numeric"
        aria-label={t('exhibits.pageNumber')}
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        onKeyDown={(event) => event.key === 'Enter' && turnTo(Math.max(1, Math.min(count, Number(typed) || page)))}
        onBlur={() => setTyped(String(page))}
        className="h-6.5 w-10 rounded-sm border border-edge bg-paper text-center"
      />
      {t('exhibits.ofPages', { count })}
    </label>
  )
}

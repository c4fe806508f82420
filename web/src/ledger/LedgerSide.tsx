import { memo, useEffect, useRef } from 'react'
import type { LedgerRow } from '../contract.generated'
import { useTranslation } from 'react-i18next'
import { timeOfDay } from '../i18n'
import { wish } from '../live/connection'
import { useLive } from '../live/store'
import { Button } from '../ui/Button'
import { sentenceOf } from './sentence'

/** Everything that happened, newest at the foot, with actor and time. */
export function LedgerSide() {
  const { t } = useTranslation()
  const ledger = useLive((state) => state.ledger)
  const takeBack = useLive((state) => state.sitting?.takeBack?.sequence)
  const list = useRef<HTMLOListElement>(null)
  useEffect(() => {
    list.current?.scrollTo({ top: list.current.scrollHeight })
  }, [ledger])
  return (
    <section aria-labelledby="ledger-title" className="flex min-h-0 min-w-0 flex-1 flex-col">
      <h2 id="ledger-title" className="px-4 pt-3 pb-2 font-serif text-[16px] font-semibold">
        {t('ledger.title')}
      </h2>
      {ledger.length === 0 && <p className="px-4 text-[14px] text-ink2">{t('ledger.empty')}</p>}
      {/* Scrolled with the keyboard, so it takes the focus. */}
      {/* eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex */}
      <ol ref={list} tabIndex={0} aria-label={t('ledger.title')} className="min-h-0 flex-1 overflow-y-auto px-4 pb-3">
        {ledger.map((row) => (
          <Line key={row.sequence} row={row} takeable={row.sequence === takeBack} />
        ))}
      </ol>
    </section>
  )
}

const Line = memo(function Line({ row, takeable }: { row: LedgerRow; takeable: boolean }) {
  const { t } = useTranslation()
  return (
    <li className="flex gap-3 border-t border-line py-1.5 text-[13.5px] leading-snug">
      <span className="min-w-0 flex-1 break-words">{sentenceOf(t, row)}</span>
      <span className="flex flex-col items-end">
        <time className="text-[12.5px] text-ink2" dateTime={new Date(row.at).toISOString()}>
          {timeOfDay(row.at)}
        </time>
        {takeable && (
          <Button small look="text" onClick={() => void wish({ do: 'takeBack', of: row.sequence })}>
            {t('ledger.takeBack')}
          </Button>
        )}
      </span>
    </li>
  )
})

import { clsx } from 'clsx'
import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { ForesightRow, Item } from '../contract.generated'
import type { Sitting } from '../live/store'
import { clock } from '../i18n'
import { deedOf } from '../ledger/sentence'
import { wish } from '../live/connection'
import { useNow } from '../live/time'
import { useForesight, useShifts } from '../orders/useForesight'
import { Button } from '../ui/Button'
import { ItemsEditor } from './ItemsEditor'

interface RunSheet {
  items: readonly Item[]
  at: number | null
  since: number | null
  spent: Readonly<Record<number, number>>
  following: Item | undefined
}

/** The order of business: what is on, how long, and what the next item will change. */
export function RunSheetSide({ sitting }: { sitting: Sitting }) {
  const { t } = useTranslation()
  const [draft, setDraft] = useState<readonly Item[] | null>(null)
  const { items } = sitting.items
  if (!items) return null
  const { at, following, since, spent } = sitting.business
  const sheet: RunSheet = { items, at, since, spent: spent ?? {}, following: items.find((item) => item.id === following) }
  const save = async () => {
    if (draft && (await wish({ do: 'setRunSheet', items: draft }))) setDraft(null)
  }
  return (
    <section aria-labelledby="sheet-title" className="flex min-h-0 min-w-0 flex-1 flex-col">
      <div className="flex items-center gap-2 px-3 pt-2 pb-1.5">
        <h2 id="sheet-title" className="flex-1 font-serif text-[1rem] font-semibold">
          {t('runSheet.title')}
        </h2>
        {draft === null && (
          <Button small onClick={() => setDraft(sheet.items)}>
            {t('common.edit')}
          </Button>
        )}
      </div>
      {/* Scrolled with the keyboard, so it takes the focus. */}
      {/* eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex */}
      <div tabIndex={0} role="region" aria-label={t('runSheet.title')} className="min-h-0 flex-1 overflow-y-auto px-3 pb-3">
        {draft ? (
          <div className="flex flex-col gap-3">
            <ItemsEditor items={draft} onChange={setDraft} />
            <div className="flex gap-2 border-t border-line pt-3">
              <Button look="primary" onClick={() => void save()}>
                {t('runSheet.save')}
              </Button>
              <Button onClick={() => setDraft(null)}>{t('common.cancel')}</Button>
            </div>
          </div>
        ) : sheet.items.length === 0 ? (
          <p className="text-[0.875rem] text-ink2">{t('runSheet.empty')}</p>
        ) : (
          <>
            <ol>
              {sheet.items.map((item, at) => (
                <Line key={item.id} item={item} number={at + 1} sheet={sheet} />
              ))}
            </ol>
            <Sum sheet={sheet} />
          </>
        )}
      </div>
      {draft === null && sheet.items.length > 0 && <NextItem sheet={sheet} />}
    </section>
  )
}

/** Milliseconds spent on an item so far. */
const spentOn = (sheet: RunSheet, id: number, now: number) =>
  (sheet.spent[id] ?? 0) + (sheet.at === id && sheet.since !== null ? Math.max(0, now - sheet.since) : 0)

function Line({ item, number, sheet }: { item: Item; number: number; sheet: RunSheet }) {
  const { t } = useTranslation()
  const now = useNow()
  const spent = spentOn(sheet, item.id, now)
  const isOn = sheet.at === item.id
  const over = item.minutes === null ? 0 : spent - item.minutes * 60_000
  const brings = [
    ...(item.lead ? [t('runSheet.ledBy', { name: item.lead })] : []),
    ...(item.shows ? [t('runSheet.showsIt', { name: item.shows })] : []),
    ...(item.orders ? [t('runSheet.bringsOrders')] : []),
    ...(item.picture ? [t('runSheet.bringsPicture', { picture: t(`picture.${item.picture}`) })] : []),
  ]
  return (
    <li
      aria-current={isOn ? 'step' : undefined}
      className={clsx(
        'border-t border-l-[5px] border-t-line py-1.5 pl-2',
        isOn ? 'border-l-moss bg-moss-soft' : spent > 0 ? 'border-l-line text-ink2' : 'border-l-transparent',
      )}
    >
      <div className="flex items-baseline gap-2 text-[0.906rem]">
        <span className="text-ink2">{number}</span>
        <span className={`min-w-0 flex-1 break-words ${isOn ? 'font-semibold' : ''}`}>{item.title}</span>
        <span className={`text-[0.812rem] whitespace-nowrap ${over > 0 ? 'font-semibold text-brick' : 'text-ink2'}`}>
          {spent > 0
            ? item.minutes === null
              ? clock(spent)
              : over > 0
                ? t('runSheet.overBy', { time: clock(over) })
                : t('floor.of', { spent: clock(spent), all: clock(item.minutes * 60_000) })
            : item.minutes !== null && t('runSheet.planned', { count: item.minutes })}
        </span>
      </div>
      {brings.length > 0 && <p className="pl-4 text-[0.812rem] text-ink2">{brings.join(' · ')}</p>}
      {item.note && isOn && <p className="mt-1 border-l-2 border-brass pl-2 text-[0.844rem] whitespace-pre-line">{item.note}</p>}
      <div className="flex gap-2 pl-4">
        {isOn ? (
          <Button small look="text" onClick={() => void wish({ do: 'endItem' })}>
            {t('runSheet.end')}
          </Button>
        ) : (
          <Button
            small
            look="text"
            aria-label={t('runSheet.turnTo', { title: item.title })}
            onClick={() => void wish({ do: 'turnToItem', item: item.id })}
          >
            {t(spent > 0 ? 'runSheet.again' : 'runSheet.begin')}
          </Button>
        )}
      </div>
    </li>
  )
}

/** How the whole stands against the plan, over what has been dealt with. */
function Sum({ sheet }: { sheet: RunSheet }) {
  const { t } = useTranslation()
  const now = useNow()
  const done = sheet.items.filter((item) => item.minutes !== null && item.id !== sheet.at && sheet.spent[item.id] !== undefined)
  const on = sheet.items.find((item) => item.id === sheet.at)
  const onOver = on?.minutes ? Math.max(0, spentOn(sheet, on.id, now) - on.minutes * 60_000) : 0
  const over = done.reduce((sum, item) => sum + (sheet.spent[item.id] ?? 0) - item.minutes! * 60_000, onOver)
  if (done.length === 0 && onOver === 0) return null
  const minutes = Math.round(Math.abs(over) / 60_000)
  return (
    <p className={`mt-2 border-t border-line pt-2 text-[0.875rem] font-semibold ${over > 30_000 ? 'text-brick' : 'text-moss'}`}>
      {minutes === 0
        ? t('runSheet.onTime')
        : over > 0
          ? t('runSheet.late', { count: minutes })
          : t('runSheet.early', { count: minutes })}
    </p>
  )
}

function NextItem({ sheet }: { sheet: RunSheet }) {
  const { t } = useTranslation()
  const shiftsOf = useShifts()
  const next = sheet.following
  const [row] = useForesight(next ? [{ do: 'nextItem' }] : [])
  if (!next) return <p className="border-t border-line px-3 py-3 text-[0.875rem] text-ink2">{t('reason.noItemLeft')}</p>
  return (
    <div className="flex flex-col gap-1.5 border-t border-line px-3 py-3">
      <Button look="primary" className="whitespace-normal" onClick={() => void wish({ do: 'nextItem' })}>
        {t('runSheet.next', { title: next.title })}
      </Button>
      <Brings row={row ?? null} shifts={shiftsOf(row ?? null)} />
    </div>
  )
}

/** What the step changes, told before it is taken. */
function Brings({ row, shifts }: { row: ForesightRow | null; shifts: readonly string[] }) {
  const { t } = useTranslation()
  if (!row || row.refusal) return null
  const lines = [
    ...row.does.slice(1).map((one) => deedOf(t, one)),
    ...(row.brings ? [t('foresight.brings', { name: row.brings })] : []),
    ...shifts,
  ]
  return (
    <ul className="text-[0.812rem] text-ink2">
      {lines.length === 0 ? <li>{t('runSheet.bringsNothing')}</li> : lines.map((line) => <li key={line}>{line}</li>)}
    </ul>
  )
}

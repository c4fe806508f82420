import { clsx } from 'clsx'
import { memo, useEffect, useRef, useState } from 'react'
import { useTranslation } from 'react-i18next'
import { Refused, sittingAddress, sittings } from '../api/client'
import type { LedgerCheckRow, LedgerRow, LedgerWish, Topic } from '../contract.generated'
import { timeOfDay } from '../i18n'
import { questions, wish } from '../live/connection'
import { useLive } from '../live/store'
import { byRankAndName } from '../people/rank'
import { Button } from '../ui/Button'
import { Select } from '../ui/Field'
import { Panel } from '../ui/Panel'
import { sentenceOf } from './sentence'

const topics: readonly Topic[] = [
  'door',
  'people',
  'microphones',
  'cameras',
  'orders',
  'floor',
  'chat',
  'picture',
  'runSheet',
  'time',
  'connections',
]
const spans = [5, 15, 60] as const

interface Filter {
  topic: Topic | ''
  person: number | null
  byBench: boolean
  minutes: number | null
}

const nothing: Filter = { topic: '', person: null, byBench: false, minutes: null }

/** Everything that happened, newest at the foot, with actor and time; looked through by topic, person and time. */
export function LedgerSide({ sitting }: { sitting: string }) {
  const { t } = useTranslation()
  const [filter, setFilter] = useState<Filter>(nothing)
  const isFiltered = filter.topic !== '' || filter.person !== null || filter.byBench || filter.minutes !== null
  return (
    <section aria-labelledby="ledger-title" className="flex min-h-0 min-w-0 flex-1 flex-col">
      <div className="flex items-center gap-2 px-3 pt-2 pb-1.5">
        <h2 id="ledger-title" className="flex-1 font-serif text-[1rem] font-semibold">
          {t('ledger.title')}
        </h2>
        <Panel
          title={t('ledger.filter')}
          align="end"
          trigger={
            <Button small look={isFiltered ? 'primary' : 'plain'}>
              {t('ledger.filter')}
            </Button>
          }
        >
          <FilterForm filter={filter} onChange={setFilter} />
        </Panel>
        <Panel title={t('ledger.takeHome')} align="end" trigger={<Button small>{t('ledger.save')}</Button>}>
          <TakeHome sitting={sitting} />
        </Panel>
      </div>
      {isFiltered ? <Filtered key={JSON.stringify(filter)} filter={filter} onClear={() => setFilter(nothing)} /> : <Newest />}
    </section>
  )
}

function FilterForm({ filter, onChange }: { filter: Filter; onChange: (filter: Filter) => void }) {
  const { t } = useTranslation()
  const seats = useLive((state) => state.seats)
  const people = [...seats.values()].sort(byRankAndName)
  return (
    <div className="flex flex-col gap-3">
      <Select
        label={t('ledger.topicLabel')}
        value={filter.topic}
        onChange={(e) => onChange({ ...filter, topic: e.target.value as Topic | '' })}
      >
        <option value="">{t('ledger.allTopics')}</option>
        {topics.map((topic) => (
          <option key={topic} value={topic}>
            {t(`ledger.topic.${topic}`)}
          </option>
        ))}
      </Select>
      <Select
        label={t('ledger.person')}
        value={filter.person ?? ''}
        onChange={(e) => onChange({ ...filter, person: e.target.value === '' ? null : Number(e.target.value) })}
      >
        <option value="">{t('ledger.everybody')}</option>
        {people.map((seat) => (
          <option key={seat.id} value={seat.id}>
            {seat.name}
          </option>
        ))}
      </Select>
      <Select
        label={t('ledger.time')}
        value={filter.minutes ?? ''}
        onChange={(e) => onChange({ ...filter, minutes: e.target.value === '' ? null : Number(e.target.value) })}
      >
        <option value="">{t('ledger.whole')}</option>
        {spans.map((minutes) => (
          <option key={minutes} value={minutes}>
            {t('ledger.last', { count: minutes })}
          </option>
        ))}
      </Select>
      <label className="flex items-center gap-2 text-[0.875rem]">
        <input
          type="checkbox"
          className="size-4.5 accent-felt"
          checked={filter.byBench}
          onChange={(e) => onChange({ ...filter, byBench: e.target.checked })}
        />
        {t('ledger.byBench')}
      </label>
    </div>
  )
}

/** The ledger as a file, and a check that nothing in it was altered. */
function TakeHome({ sitting }: { sitting: string }) {
  const { t } = useTranslation()
  const [check, setCheck] = useState<LedgerCheckRow | string | null>(null)
  const run = async () => {
    try {
      setCheck(await sittings.checkLedger(sitting))
    } catch (error) {
      setCheck((error as Refused).message)
    }
  }
  return (
    <div className="flex flex-col gap-3 text-[0.906rem]">
      <ul className="flex flex-col gap-1">
        {(['jsonl', 'csv'] as const).map((format) => (
          <li key={format}>
            <a href={sittingAddress(sitting, `ledger.${format}`)} download className="underline underline-offset-4">
              {t(`ledger.format.${format}`)}
            </a>
          </li>
        ))}
      </ul>
      <div className="border-t border-line pt-3">
        <Button onClick={() => void run()}>{t('ledger.check')}</Button>
        <div role="status" className="mt-2 text-[0.875rem]">
          {typeof check === 'string' && <p className="text-brick">{check}</p>}
          {check && typeof check !== 'string' && (
            <>
              <p
                className={clsx(
                  'border-l-4 pl-2 font-semibold',
                  check.firstBreak === null ? 'border-moss text-moss' : 'border-brick text-brick',
                )}
              >
                {check.firstBreak === null
                  ? t('ledger.whole_check', { count: check.entries })
                  : t('ledger.broken', { number: check.firstBreak })}
              </p>
              <p className="mt-1 text-[0.812rem] break-all text-ink2">{t('ledger.digest', { digest: check.digest })}</p>
            </>
          )}
        </div>
      </div>
    </div>
  )
}

function Newest() {
  const { t } = useTranslation()
  const rows = useLive((state) => state.ledger)
  return <Rows rows={rows} empty={t('ledger.empty')} />
}

function Filtered({ filter, onClear }: { filter: Filter; onClear: () => void }) {
  const { t } = useTranslation()
  const v = useLive((state) => state.v)
  const [found, setFound] = useState<{ rows: readonly LedgerRow[]; more: boolean } | null>(null)
  const [begun] = useState(() => Date.now())
  const wanted = (before: number | null): LedgerWish => ({
    before,
    topics: filter.topic === '' ? [] : [filter.topic],
    person: filter.person,
    byBench: filter.byBench,
    from: filter.minutes === null ? null : begun - filter.minutes * 60_000,
    to: null,
  })
  const newest = useRef(wanted)
  useEffect(() => {
    newest.current = wanted
  })
  useEffect(() => {
    void questions.ledger(newest.current(null)).then((page) => page && setFound(page))
  }, [v])
  const older = async () => {
    const page = found?.rows[0] && (await questions.ledger(wanted(found.rows[0].sequence)))
    if (page) setFound((held) => held && { rows: [...page.rows, ...held.rows], more: page.more })
  }
  return (
    <>
      <p role="status" className="flex items-center gap-2 px-3 pb-1 text-[0.812rem] text-ink2">
        {found ? t(found.more ? 'ledger.foundMore' : 'ledger.found', { count: found.rows.length }) : t('common.loading')}
        <Button small look="text" onClick={onClear}>
          {t('ledger.clear')}
        </Button>
      </p>
      {found && <Rows rows={found.rows} empty={t('ledger.noneFound')} onOlder={found.more ? older : undefined} />}
    </>
  )
}

function Rows({
  rows,
  empty,
  onOlder,
}: {
  rows: readonly LedgerRow[]
  empty: string
  onOlder?: (() => Promise<void>) | undefined
}) {
  const { t } = useTranslation()
  const takeable = useLive((state) => state.sitting?.takeable.sequences ?? null)
  const list = useRef<HTMLOListElement>(null)
  const last = rows[rows.length - 1]?.sequence
  useEffect(() => {
    list.current?.scrollTo({ top: list.current.scrollHeight })
  }, [last])
  return (
    // Scrolled with the keyboard, so it takes the focus.
    // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex
    <ol ref={list} tabIndex={0} aria-label={t('ledger.title')} className="min-h-0 flex-1 overflow-y-auto px-3 pb-3">
      {rows.length === 0 && <li className="text-[0.875rem] text-ink2">{empty}</li>}
      {onOlder && (
        <li>
          <Button small look="text" onClick={() => void onOlder()}>
            {t('ledger.older')}
          </Button>
        </li>
      )}
      {rows.map((row) => (
        <Line key={row.sequence} row={row} takeable={takeable?.includes(row.sequence) ?? false} />
      ))}
    </ol>
  )
}

const Line = memo(function Line({ row, takeable }: { row: LedgerRow; takeable: boolean }) {
  const { t } = useTranslation()
  return (
    <li className="flex gap-3 border-t border-line py-1.5 text-[0.844rem] leading-snug">
      <span className="min-w-0 flex-1 break-words">{sentenceOf(t, row)}</span>
      <span className="flex flex-col items-end">
        <time className="text-[0.781rem] text-ink2" dateTime={new Date(row.at).toISOString()}>
          {timeOfDay(row.at)}
        </time>
        {takeable && (
          <Button
            small
            look="text"
            aria-label={`${t('ledger.takeBack')}: ${sentenceOf(t, row)}`}
            onClick={() => void wish({ do: 'takeBack', of: row.sequence })}
          >
            {t('ledger.takeBack')}
          </Button>
        )}
      </span>
    </li>
  )
})

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import { Link } from 'react-router'
import { filmAddress, recordings } from '../api/client'
import type { RecordingRow } from '../contract.generated'
import { clock, dateAndTime, dayAndTime } from '../i18n'
import { Button } from '../ui/Button'
import { DeskPage } from '../ui/DeskPage'
import { Failure } from '../ui/Failure'
import { Field, Select } from '../ui/Field'
import { isSignedOut, Loading, NotFetched } from '../ui/States'
import { folded, megabytes, useFilmState, wastebasketDays } from './library'

/** A host's recordings, by their folders. */
export default function LibraryPage() {
  const { t } = useTranslation()
  const list = useQuery({
    queryKey: ['recordings'],
    queryFn: recordings.list,
    // While a film is being made its progress is looked at often.
    refetchInterval: (query) => (query.state.data?.some(isBusy) ? 1_500 : 15_000),
  })
  const [find, setFind] = useState('')
  const [sort, setSort] = useState<'newest' | 'name'>('newest')
  if (list.error && (!list.data || isSignedOut(list.error)))
    return <NotFetched error={list.error} onRetry={() => void list.refetch()} />
  if (!list.data) return <Loading />
  const words = folded(find)
  const found = list.data.filter((one) => folded(`${one.name} ${one.sessionTitle} ${one.shelf}`).includes(words))
  const kept = found.filter((one) => one.deletedAt === null)
  const deleted = found.filter((one) => one.deletedAt !== null)
  if (sort === 'name') kept.sort((a, b) => a.name.localeCompare(b.name))
  const shelves = [...new Set(kept.map((one) => one.shelf))].sort(
    (a, b) => Number(a === '') - Number(b === '') || a.localeCompare(b),
  )
  return (
    <DeskPage title={t('library.title')}>
      <Failure of={[list.error]} />
      {list.data.length === 0 ? (
        <p className="max-w-prose text-ink2">{t('library.none')}</p>
      ) : (
        <div className="flex flex-col gap-6">
          <div className="flex flex-wrap gap-4">
            <div className="w-72 max-w-full">
              <Field label={t('library.find')} type="search" value={find} onChange={(e) => setFind(e.target.value)} />
            </div>
            <div className="w-48">
              <Select label={t('library.sort')} value={sort} onChange={(e) => setSort(e.target.value as typeof sort)}>
                <option value="newest">{t('library.newest')}</option>
                <option value="name">{t('library.byName')}</option>
              </Select>
            </div>
          </div>
          {found.length === 0 && <p className="text-ink2">{t('library.nothingFound')}</p>}
          {shelves.map((shelf) => (
            <section key={shelf}>
              <h2 className={shelves.length > 1 || shelf !== '' ? 'mb-2 font-serif text-[1.062rem] font-semibold' : 'sr-only'}>
                {shelf || t('library.unsorted')}{' '}
                <span className="ml-1 font-sans text-[0.875rem] text-ink2">
                  {kept.filter((one) => one.shelf === shelf).length}
                </span>
              </h2>
              <ul className="flex flex-col gap-1.5">
                {kept
                  .filter((one) => one.shelf === shelf)
                  .map((one) => (
                    <Row key={one.id} row={one} />
                  ))}
              </ul>
            </section>
          ))}
          {deleted.length > 0 && (
            <section>
              <h2 className="mb-1 font-serif text-[1.062rem] font-semibold">{t('library.wastebasket')}</h2>
              <p className="mb-2 text-[0.875rem] text-ink2">{t('library.wastebasketHint', { count: wastebasketDays })}</p>
              <ul className="flex flex-col gap-1.5">
                {deleted.map((one) => (
                  <Deleted key={one.id} row={one} />
                ))}
              </ul>
            </section>
          )}
        </div>
      )}
    </DeskPage>
  )
}

const isBusy = (row: RecordingRow) =>
  row.endedAt === null || row.films.some((film) => film.state === 'waiting' || film.state === 'composing')

function Row({ row }: { row: RecordingRow }) {
  const { t } = useTranslation()
  const state = useFilmState()
  const ready = row.films.find((film) => film.state === 'ready')
  const making = row.films.find((film) => film.state === 'composing') ?? row.films.find((film) => film.state !== 'ready')
  const size = row.size + row.films.reduce((sum, film) => sum + film.size, 0)
  return (
    <li className="flex items-stretch gap-4 border border-l-[6px] border-line border-l-plum bg-paper">
      <Link to={`/recordings/${row.id}`} className="block w-40 shrink-0 bg-dusk max-sm:hidden" tabIndex={-1} aria-hidden>
        {ready && ready.framing !== 'sound' ? (
          <img
            src={filmAddress(row.id, ready.id, 'poster.jpg')}
            alt=""
            loading="lazy"
            className="block aspect-video size-full object-cover"
          />
        ) : (
          <span className="grid aspect-video size-full place-items-center font-serif text-[1.25rem] text-ink">
            {clock(row.length)}
          </span>
        )}
      </Link>
      <div className="min-w-0 flex-1 py-2.5 pr-4 max-sm:pl-3">
        <h3 className="font-serif text-[1.125rem] leading-tight font-semibold">
          <Link to={`/recordings/${row.id}`} className="underline-offset-4 hover:underline">
            {row.name}
          </Link>
        </h3>
        <p className="mt-0.5 text-[0.875rem] text-ink2">
          {[
            ...(row.name === row.sessionTitle ? [] : [row.sessionTitle]),
            dateAndTime(row.startedAt),
            row.endedAt === null ? t('library.running') : clock(row.length),
            t('library.size', { size: megabytes(size) }),
            t(`recording.watchers.${row.watchers}`),
          ].join(' · ')}
        </p>
        {making && row.endedAt !== null && (
          <div className="mt-1 flex items-center gap-3 text-[0.875rem]">
            {making.progress && (
              <progress value={making.progress.share} max={1} aria-label={t('player.film')} className="h-2 w-40 accent-plum" />
            )}
            <span className={making.state === 'failed' ? 'text-brick' : ''}>{state(making)}</span>
          </div>
        )}
      </div>
    </li>
  )
}

function Deleted({ row }: { row: RecordingRow }) {
  const { t } = useTranslation()
  const queries = useQueryClient()
  const [asking, setAsking] = useState(false)
  const renew = () => queries.invalidateQueries({ queryKey: ['recordings'] })
  const back = useMutation({ mutationFn: () => recordings.putBack(row.id), onSuccess: renew })
  const gone = useMutation({ mutationFn: () => recordings.removeForGood(row.id), onSuccess: renew })
  return (
    <li className="flex flex-wrap items-center gap-3 border border-line bg-paper px-4 py-2">
      <span className="min-w-0 flex-1">
        <span className="font-semibold">{row.name}</span>{' '}
        <span className="text-[0.875rem] text-ink2">
          {clock(row.length)} · {t('library.deleted', { when: dayAndTime(row.deletedAt!) })}
        </span>
      </span>
      {asking ? (
        <>
          <span className="text-[0.875rem]">{t('library.sureForGood')}</span>
          <Button small look="end" onClick={() => gone.mutate()}>
            {t('library.removeForGood')}
          </Button>
          <Button small onClick={() => setAsking(false)}>
            {t('common.back')}
          </Button>
        </>
      ) : (
        <>
          <Button small onClick={() => back.mutate()}>
            {t('library.putBack')}
          </Button>
          <Button small look="text" onClick={() => setAsking(true)}>
            {t('library.removeForGood')}
          </Button>
        </>
      )}
      <Failure of={[back.error, gone.error]} className="basis-full" />
    </li>
  )
}

import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState, type ReactNode } from 'react'
import { useTranslation } from 'react-i18next'
import { filmAddress, recordings } from '../api/client'
import type { CutRow, FilmRow, Framing, RecordingPage, Watchers } from '../contract.generated'
import { clock, dateAndTime, dayAndTime } from '../i18n'
import { Button } from '../ui/Button'
import { CopyButton } from '../ui/CopyButton'
import { Failure } from '../ui/Failure'
import { Field, Select, Tick } from '../ui/Field'
import { CutForm } from './CutForm'
import { RecordedPapers } from './RecordedPapers'
import { useTranscript } from './useTranscript'
import { megabytes, timeIn, useFilmState, wastebasketDays } from './library'

interface Props {
  page: RecordingPage
  /** The personal link by which somebody sees it. */
  film: FilmRow | null
  onFilm: (film: string) => void
}

/** What one may do with a recording: everybody saves; whoever keeps it names, shares, composes and deletes it. */
export function Keeping({ page, film, onFilm }: Props) {
  const { t } = useTranslation()
  const id = page.recording.id
  const captioned = (useTranscript(id, film?.id ?? null).data?.cues.length ?? 0) > 0
  return (
    <div className="mt-6 grid gap-x-8 gap-y-6 md:grid-cols-2 xl:grid-cols-3">
      <Part title={t('player.save')}>
        {film && (
          <ul className="flex flex-col gap-1">
            <Saved address={filmAddress(id, film.id, 'film.webm', true)} label={t('player.saveFilm')} />
            {captioned && <Saved address={filmAddress(id, film.id, 'captioned.webm')} label={t('player.saveCaptioned')} />}
            <Saved address={filmAddress(id, film.id, 'chapters.vtt')} label={t('player.saveChapters')} />
            {captioned && (
              <>
                <Saved address={filmAddress(id, film.id, 'captions.vtt', true)} label={t('player.saveCaptions')} />
                <Saved address={filmAddress(id, film.id, 'transcript.txt')} label={t('player.saveTranscript')} />
              </>
            )}
            {page.keeps && <Saved address={`/api/recordings/${id}/tracks.zip`} label={t('player.saveTracks')} />}
          </ul>
        )}
        <RecordedPapers id={id} />
        {!film && page.keeps && <Saved address={`/api/recordings/${id}/tracks.zip`} label={t('player.saveTracks')} />}
      </Part>
      {page.keeps && page.recording.endedAt !== null && (
        <>
          <Films page={page} film={film} onFilm={onFilm} />
          {film && (
            <Part title={t('player.cut')}>
              <CutForm key={film.id} id={id} film={film} onMade={onFilm} />
            </Part>
          )}
          <About key={page.recording.name} page={page} />
          <Share page={page} />
          <People page={page} />
          <Consents page={page} />
        </>
      )}
    </div>
  )
}

const Part = ({ title, children }: { title: string; children: ReactNode }) => (
  <section className="border-t-2 border-felt pt-2">
    <h2 className="mb-2 font-serif text-[1.062rem] font-semibold">{title}</h2>
    {children}
  </section>
)

const Saved = ({ address, label }: { address: string; label: string }) => (
  <li className="list-none">
    <a href={address} download className="inline-flex min-h-6 items-center underline underline-offset-4">
      {label}
    </a>
  </li>
)

/** Does something with the recording, and looks at it anew. */
function useAct<T>(id: string, act: (wish: T) => Promise<unknown>, then?: () => void) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: act,
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: ['recording', id] })
      await queries.invalidateQueries({ queryKey: ['recordings'] })
      then?.()
    },
  })
}

function Films({ page, film, onFilm }: { page: RecordingPage; film: FilmRow | null; onFilm: (film: string) => void }) {
  const { t } = useTranslation()
  const state = useFilmState()
  const { id, films } = page.recording
  const [composes, setComposes] = useState(false)
  const [asking, setAsking] = useState<string | null>(null)
  const cancel = useAct(id, (one: string) => recordings.cancelFilm(id, one))
  const again = useAct(id, (one: string) => recordings.filmAgain(id, one))
  const drop = useAct(id, (one: string) => recordings.dropFilm(id, one))
  return (
    <Part title={t('player.films')}>
      <ul className="flex flex-col gap-1.5">
        {films.map((one) => {
          const name = [
            one.framing ? t(`recording.framingName.${one.framing}`) : t('player.asRecorded'),
            ...(one.cuts.length > 0 ? [t('player.cutFilm')] : []),
            ...(one.state === 'ready' ? [clock(one.length), t('library.size', { size: megabytes(one.size) })] : []),
          ].join(', ')
          return (
            <li key={one.id} className="flex flex-wrap items-center gap-2 text-[0.906rem]">
              {one.state === 'ready' ? (
                <Button
                  small
                  look={one.id === film?.id ? 'primary' : 'plain'}
                  aria-pressed={one.id === film?.id}
                  onClick={() => onFilm(one.id)}
                >
                  {name}
                </Button>
              ) : (
                <span className={one.state === 'failed' ? 'text-brick' : ''} role="status">
                  {name}: {state(one)}
                </span>
              )}
              {(one.state === 'waiting' || one.state === 'composing') && (
                <Button small onClick={() => cancel.mutate(one.id)}>
                  {t('player.cancel')}
                </Button>
              )}
              {(one.state === 'failed' || one.state === 'cancelled') && (
                <Button small onClick={() => again.mutate(one.id)}>
                  {t('player.again')}
                </Button>
              )}
              {one.state !== 'waiting' &&
                one.state !== 'composing' &&
                (asking === one.id ? (
                  <>
                    <Button small look="end" onClick={() => drop.mutate(one.id)}>
                      {t('player.dropFilm')}
                    </Button>
                    <Button small onClick={() => setAsking(null)}>
                      {t('common.back')}
                    </Button>
                  </>
                ) : (
                  <Button small look="text" aria-label={`${t('player.dropFilm')}: ${name}`} onClick={() => setAsking(one.id)}>
                    {t('common.remove')}
                  </Button>
                ))}
            </li>
          )
        })}
      </ul>
      <Failure of={[cancel.error, again.error, drop.error]} />
      {composes ? (
        <Compose id={id} onDone={() => setComposes(false)} />
      ) : (
        <Button className="mt-2" onClick={() => setComposes(true)}>
          {t('player.compose')}
        </Button>
      )}
    </Part>
  )
}

function Compose({ id, onDone }: { id: string; onDone: () => void }) {
  const { t } = useTranslation()
  const [framing, setFraming] = useState<Framing | ''>('')
  const [names, setNames] = useState(true)
  const [questions, setQuestions] = useState(true)
  const [cuts, setCuts] = useState<{ from: string; to: string }[]>([])
  const [bad, setBad] = useState(false)
  const compose = useAct(
    id,
    (parts: CutRow[]) => recordings.compose(id, { framing: framing === '' ? null : framing, names, questions, cuts: parts }),
    onDone,
  )
  const submit = () => {
    const read = cuts.map((cut) => ({ from: timeIn(cut.from), to: timeIn(cut.to) }))
    const parts = read.filter((cut): cut is CutRow => cut.from !== null && cut.to !== null && cut.from < cut.to)
    setBad(parts.length < read.length)
    if (parts.length === read.length) compose.mutate(parts)
  }
  const set = (at: number, change: Partial<{ from: string; to: string }>) =>
    setCuts(cuts.map((cut, index) => (index === at ? { ...cut, ...change } : cut)))
  return (
    <form
      className="mt-2 flex flex-col gap-2 border border-line bg-paper p-3"
      onSubmit={(event) => {
        event.preventDefault()
        submit()
      }}
    >
      <Select label={t('recording.film')} value={framing} onChange={(e) => setFraming(e.target.value as Framing | '')}>
        <option value="">{t('player.asRecorded')}</option>
        {(['lead', 'even', 'exhibit', 'sound'] as const).map((one) => (
          <option key={one} value={one}>
            {t(`recording.framingName.${one}`)}
          </option>
        ))}
      </Select>
      <Tick label={t('recording.names')} checked={names} onChange={(e) => setNames(e.target.checked)} />
      <Tick label={t('recording.questions')} checked={questions} onChange={(e) => setQuestions(e.target.checked)} />
      {cuts.map((cut, at) => (
        <fieldset key={at} className="flex items-end gap-2">
          <legend className="sr-only">{t('player.leaveOut')}</legend>
          <Field
            label={t('player.from')}
            placeholder="0:00"
            value={cut.from}
            onChange={(e) => set(at, { from: e.target.value })}
          />
          <Field label={t('player.to')} placeholder="1:30" value={cut.to} onChange={(e) => set(at, { to: e.target.value })} />
          <Button
            small
            aria-label={`${t('common.remove')} ${at + 1}`}
            onClick={() => setCuts(cuts.filter((_, index) => index !== at))}
          >
            {t('common.remove')}
          </Button>
        </fieldset>
      ))}
      {cuts.length > 0 && <p className="text-[0.812rem] text-ink2">{t('player.leaveOutHint')}</p>}
      {bad && (
        <p role="alert" className="text-[0.844rem] font-medium text-brick">
          {t('player.badCut')}
        </p>
      )}
      <Failure of={[compose.error]} />
      <div className="flex flex-wrap gap-2">
        <Button look="primary" type="submit" disabled={compose.isPending}>
          {t('player.composeDo')}
        </Button>
        <Button onClick={() => setCuts([...cuts, { from: '', to: '' }])}>
          {t(cuts.length === 0 ? 'player.leaveOut' : 'player.addCut')}
        </Button>
        <Button look="text" onClick={onDone}>
          {t('common.cancel')}
        </Button>
      </div>
    </form>
  )
}

function About({ page }: { page: RecordingPage }) {
  const { t } = useTranslation()
  const { recording } = page
  const [name, setName] = useState(recording.name)
  const [shelf, setShelf] = useState(recording.shelf)
  const [watchers, setWatchers] = useState<Watchers>(recording.watchers)
  const keep = useAct(recording.id, () => recordings.keep(recording.id, { name, shelf, watchers }))
  const remove = useAct(recording.id, () => recordings.remove(recording.id))
  const changed = name !== recording.name || shelf !== recording.shelf || watchers !== recording.watchers
  return (
    <Part title={t('player.about')}>
      <form
        className="flex flex-col gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          keep.mutate(undefined)
        }}
      >
        <Field label={t('player.name')} maxLength={120} value={name} onChange={(e) => setName(e.target.value)} />
        <Field label={t('player.shelf')} maxLength={60} value={shelf} onChange={(e) => setShelf(e.target.value)} />
        <Select label={t('recording.forWhom')} value={watchers} onChange={(e) => setWatchers(e.target.value as Watchers)}>
          {(['bench', 'present', 'invited'] as const).map((one) => (
            <option key={one} value={one}>
              {t(`recording.watchersName.${one}`)}
            </option>
          ))}
        </Select>
        <Failure of={[keep.error, remove.error]} />
        <Button type="submit" className="self-start" disabled={!changed || keep.isPending}>
          {t('player.keepDo')}
        </Button>
      </form>
      <div className="mt-4 flex flex-wrap items-center gap-2">
        {recording.deletedAt === null ? (
          <>
            <Button look="end" onClick={() => remove.mutate(undefined)}>
              {t('player.delete')}
            </Button>
            <span className="text-[0.812rem] text-ink2">{t('player.deleteHint', { count: wastebasketDays })}</span>
          </>
        ) : (
          <span role="status">{t('player.deletedNow')}</span>
        )}
      </div>
    </Part>
  )
}

function Share({ page }: { page: RecordingPage }) {
  const { t } = useTranslation()
  const id = page.recording.id
  const [days, setDays] = useState('30')
  const [passcode, setPasscode] = useState('')
  const [made, setMade] = useState<string | null>(null)
  const queries = useQueryClient()
  const share = useMutation({
    mutationFn: () =>
      recordings.share(id, { days: days === '' ? null : Number(days), passcode: passcode === '' ? null : passcode }),
    onSuccess: async ({ link }) => {
      setMade(`${location.origin}${link}`)
      setPasscode('')
      await queries.invalidateQueries({ queryKey: ['recording', id] })
    },
  })
  const drop = useAct(id, (link: string) => recordings.dropLink(id, link))
  return (
    <Part title={t('player.share')}>
      <form
        className="flex flex-col gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          share.mutate()
        }}
      >
        <Field label={t('player.days')} type="number" min={1} max={3650} value={days} onChange={(e) => setDays(e.target.value)} />
        <Field
          label={t('player.passcode')}
          autoComplete="off"
          maxLength={100}
          value={passcode}
          onChange={(e) => setPasscode(e.target.value)}
        />
        <Failure of={[share.error, drop.error]} />
        <Button type="submit" className="self-start" disabled={share.isPending}>
          {t('player.makeLink')}
        </Button>
      </form>
      {made && (
        <div className="mt-3 border-l-4 border-brass bg-brass-soft p-2" role="status">
          <p className="text-[0.875rem] break-all">{made}</p>
          <p className="my-1 text-[0.812rem]">{t('player.linkOnce')}</p>
          <CopyButton text={made} label={t('common.copy')} />
        </div>
      )}
      {page.links.length > 0 && (
        <ul className="mt-3 flex flex-col gap-1" aria-label={t('player.links')}>
          {page.links.map((link) => (
            <li key={link.id} className="flex flex-wrap items-center gap-2 text-[0.875rem]">
              <span>
                {dateAndTime(link.madeAt)} ·{' '}
                {link.endsAt === null ? t('player.linkEver') : t('player.linkEnds', { when: dayAndTime(link.endsAt) })}
                {link.hasPasscode && ` · ${t('player.linkCode')}`}
              </span>
              <Button small look="text" onClick={() => drop.mutate(link.id)}>
                {t('player.dropLink')}
              </Button>
            </li>
          ))}
        </ul>
      )}
    </Part>
  )
}

function People({ page }: { page: RecordingPage }) {
  const { t } = useTranslation()
  const [asking, setAsking] = useState<number | null>(null)
  const takeOut = useAct(page.recording.id, (seat: number) => recordings.takeOut(page.recording.id, seat))
  if (page.tracks.length === 0) return null
  return (
    <Part title={t('player.people')}>
      <ul className="flex flex-col gap-1">
        {page.tracks.map((track) => (
          <li key={track.seat} className="flex flex-wrap items-center gap-2 text-[0.906rem]">
            <span className="flex-1">
              {track.name}{' '}
              <span className="text-[0.812rem] text-ink2">{t('library.size', { size: megabytes(track.bytes) })}</span>
            </span>
            {asking === track.seat ? (
              <>
                <span className="basis-full text-[0.844rem]">{t('player.takeOutSure', { name: track.name })}</span>
                <Button small look="end" onClick={() => takeOut.mutate(track.seat)}>
                  {t('player.takeOut')}
                </Button>
                <Button small onClick={() => setAsking(null)}>
                  {t('common.back')}
                </Button>
              </>
            ) : (
              <Button
                small
                look="text"
                aria-label={`${t('player.takeOut')}: ${track.name}`}
                onClick={() => setAsking(track.seat)}
              >
                {t('player.takeOut')}
              </Button>
            )}
          </li>
        ))}
      </ul>
      <Failure of={[takeOut.error]} />
    </Part>
  )
}

function Consents({ page }: { page: RecordingPage }) {
  const { t } = useTranslation()
  if (page.consents.length === 0) return null
  return (
    <Part title={t('player.consents')}>
      <ul className="flex flex-col gap-0.5 text-[0.906rem]">
        {page.consents.map((one, at) => (
          <li key={at}>
            <span className="text-[0.812rem] text-ink2">{dayAndTime(one.at)}</span> {one.name}:{' '}
            {t(one.erased ? 'player.erased' : one.answer === 'agreed' ? 'player.agreed' : 'player.leftOut')}
          </li>
        ))}
      </ul>
    </Part>
  )
}

import { clsx } from 'clsx'
import { useEffect, useRef, useState } from 'react'
import { useTranslation } from 'react-i18next'
import { filmAddress } from '../api/client'
import type { ChapterRow, FilmRow, RecordingPage } from '../contract.generated'
import { clock } from '../i18n'
import { NotesInFilm } from '../notes/NotesInFilm'
import { Button } from '../ui/Button'
import { Field, Select } from '../ui/Field'
import { folded } from './library'
import { usePlace } from './place'
import { TimeLine } from './TimeLine'
import { TranscriptList } from './TranscriptList'
import { useTranscript } from './useTranscript'

interface Props {
  page: RecordingPage
  film: FilmRow
  address: string
  /** The personal link by which somebody sees it. */
}

function showCaptions(video: HTMLVideoElement | null, shown: boolean) {
  const track = video?.textTracks[0]
  if (track) track.mode = shown ? 'showing' : 'disabled'
}

const speeds = [0.5, 0.75, 1, 1.25, 1.5, 2]

/** Plays a film: a line of time with what is loud and who speaks, chapters, and the names of those who spoke. */
export function FilmPlayer({ page, film, address }: Props) {
  const { t, i18n } = useTranslation()
  const lang = i18n.language
  const video = useRef<HTMLVideoElement>(null)
  const [at, setAt] = useState(0)
  const [plays, setPlays] = useState(false)
  useEffect(() => usePlace.setState({ at }), [at])
  const [broken, setBroken] = useState(false)
  const [speed, setSpeed] = useState(1)
  useEffect(() => {
    if (video.current) video.current.playbackRate = speed
  }, [speed])
  const go = (to: number) => {
    const end = film.length / 1000
    if (video.current) video.current.currentTime = Math.min(Math.max(0, to / 1000), Math.max(0, end - 0.05))
    setAt(to)
  }
  const toggle = () => {
    if (!video.current) return
    if (video.current.paused) void video.current.play().catch(() => setBroken(true))
    else video.current.pause()
  }
  const transcript = useTranscript(page.recording.id, film.id)
  const cues = transcript.data?.cues ?? []
  const captions = filmAddress(page.recording.id, film.id, 'captions.vtt')
  const [captioned, setCaptioned] = useState(false)
  useEffect(() => {
    showCaptions(video.current, captioned)
  }, [captioned, transcript.dataUpdatedAt])
  const chapter = page.chapters.findLastIndex((one) => one.at <= at + 50)
  const onKey = (event: KeyboardEvent) => {
    const field = event.target as HTMLElement
    if (event.defaultPrevented) return
    if (['INPUT', 'SELECT', 'TEXTAREA'].includes(field.tagName) && (field as HTMLInputElement).type !== 'range') return
    if (event.ctrlKey || event.altKey || event.metaKey) return
    const done = {
      ' ': () => field.tagName !== 'BUTTON' && toggle(),
      ArrowLeft: () => go(at - 10_000),
      ArrowRight: () => go(at + 10_000),
      PageUp: () =>
        go(page.chapters[Math.max(0, at - (page.chapters[chapter]?.at ?? 0) > 2_000 ? chapter : chapter - 1)]?.at ?? 0),
      c: () => cues.length > 0 && setCaptioned(!captioned),
      PageDown: () => page.chapters[chapter + 1] && go(page.chapters[chapter + 1]!.at),
    }[event.key]
    if (!done || (event.key === ' ' && field.tagName === 'BUTTON')) return
    event.preventDefault()
    done()
  }
  useEffect(() => {
    addEventListener('keydown', onKey)
    return () => removeEventListener('keydown', onKey)
  })
  return (
    <section aria-label={t('player.film')} className="grid gap-x-5 gap-y-3 lg:grid-cols-[minmax(0,1fr)_19rem]">
      <div className="min-w-0">
        {film.framing === 'sound' && (
          <p className="grid aspect-video max-h-[56dvh] w-full place-items-center bg-dusk font-serif text-[1.5rem] text-ink">
            {t('recording.framingName.sound')}
          </p>
        )}
        <video
          ref={video}
          src={address}
          preload="metadata"
          playsInline
          tabIndex={-1}
          className={clsx('block w-full bg-dusk', film.framing === 'sound' ? 'hidden' : 'aspect-video max-h-[62dvh]')}
          onClick={toggle}
          onTimeUpdate={(e) => setAt(e.currentTarget.currentTime * 1000)}
          onPlay={() => setPlays(true)}
          onPause={() => setPlays(false)}
          onError={() => setBroken(true)}
        >
          <track key={transcript.dataUpdatedAt} kind="captions" src={captions} srcLang={lang} label={t('captions.title')} />
        </video>
        {broken && (
          <p role="alert" className="mt-1 text-[0.875rem] font-medium text-brick">
            {t('player.cannotPlay')}
          </p>
        )}
        <TimeLine page={page} length={film.length} at={at} onGo={go} />
        <div className="mt-2 flex flex-wrap items-center gap-2">
          <Button look="primary" onClick={toggle} className="min-w-24">
            {t(plays ? 'player.pause' : 'player.play')}
          </Button>
          <Button onClick={() => go(at - 10_000)}>{t('player.back')}</Button>
          <Button onClick={() => go(at + 10_000)}>{t('player.ahead')}</Button>
          <span className="text-[0.938rem] tabular-nums" data-testid="at">
            {t('player.at', { at: clock(at), length: clock(film.length) })}
          </span>
          {cues.length > 0 && (
            <Button aria-pressed={captioned} onClick={() => setCaptioned(!captioned)}>
              {t(captioned ? 'player.captionsOff' : 'player.captionsOn')}
            </Button>
          )}
          <span className="ml-auto flex items-center gap-2 [&_label]:mb-0">
            <Select label={t('player.speed')} value={String(speed)} onChange={(e) => setSpeed(Number(e.target.value))}>
              {speeds.map((one) => (
                <option key={one} value={one}>
                  {one.toLocaleString()} ×
                </option>
              ))}
            </Select>
          </span>
        </div>
        <p className="mt-1 text-[0.812rem] text-ink2 max-md:hidden">{t('player.keys')}</p>
      </div>
      <div className="flex min-w-0 flex-col gap-4">
        <Chapters chapters={page.chapters} now={chapter} onGo={go} />
        {transcript.data && <TranscriptList page={page} transcript={transcript.data} at={at} onGo={go} />}
        <NotesInFilm page={page} onGo={go} />
        <Spoken page={page} at={at} onGo={go} />
      </div>
    </section>
  )
}

function Chapters({ chapters, now, onGo }: { chapters: readonly ChapterRow[]; now: number; onGo: (at: number) => void }) {
  const { t } = useTranslation()
  return (
    <nav aria-label={t('player.chapters')}>
      <h2 className="mb-1 font-serif text-[1.062rem] font-semibold">{t('player.chapters')}</h2>
      <ol className="max-h-72 overflow-auto border border-line bg-paper">
        {chapters.map((one, index) => (
          <li key={`${one.at}-${one.title}`}>
            <button
              className={clsx(
                'flex min-h-8 w-full items-baseline gap-3 border-l-4 px-2.5 py-1 text-left text-[0.906rem] hover:bg-linen',
                index === now ? 'border-plum bg-plum-soft font-semibold' : 'border-transparent',
              )}
              aria-current={index === now ? 'true' : undefined}
              onClick={() => onGo(one.at)}
            >
              <span className="w-14 shrink-0 text-[0.812rem] text-ink2 tabular-nums">{clock(one.at)}</span>
              <span className="min-w-0">{one.title}</span>
            </button>
          </li>
        ))}
      </ol>
    </nav>
  )
}

function Spoken({ page, at, onGo }: { page: RecordingPage; at: number; onGo: (at: number) => void }) {
  const { t } = useTranslation()
  const [find, setFind] = useState('')
  const rows = page.spoken.filter((one) => folded(one.name).includes(folded(find)))
  const now = rows.findLastIndex((one) => one.from <= at)
  const list = useRef<HTMLOListElement>(null)
  useEffect(() => {
    // The list follows, and moves nothing but itself.
    const row = list.current?.children[now] as HTMLElement | undefined
    if (row && list.current) list.current.scrollTop = row.offsetTop - list.current.offsetTop - list.current.clientHeight / 2
  }, [now])
  if (page.spoken.length === 0) return null
  return (
    <section aria-label={t('player.spoken')} className="flex min-h-0 flex-col">
      <h2 className="mb-1 font-serif text-[1.062rem] font-semibold">{t('player.spoken')}</h2>
      <Field label={t('player.findSpoken')} type="search" value={find} onChange={(e) => setFind(e.target.value)} />
      <ol ref={list} className="mt-2 max-h-64 overflow-auto border border-line bg-paper">
        {rows.map((one, index) => (
          <li key={`${one.from}-${one.name}`}>
            <button
              className={clsx(
                'flex min-h-7 w-full items-baseline gap-3 px-2.5 py-0.5 text-left text-[0.875rem] hover:bg-linen',
                index === now && at < one.to ? 'bg-plum-soft font-semibold' : '',
              )}
              onClick={() => onGo(one.from)}
            >
              <span className="w-14 shrink-0 text-[0.812rem] text-ink2 tabular-nums">{clock(one.from)}</span>
              <span className="min-w-0">{one.name}</span>
            </button>
          </li>
        ))}
      </ol>
    </section>
  )
}

import { useMutation, useQueryClient } from '@tanstack/react-query'
import { clsx } from 'clsx'
import { useEffect, useMemo, useRef, useState } from 'react'
import { useTranslation } from 'react-i18next'
import { recordings } from '../api/client'
import type { CueRow, RecordingPage, TranscriptPage } from '../contract.generated'
import { clock } from '../i18n'
import { Button } from '../ui/Button'
import { Failure } from '../ui/Failure'
import { Field } from '../ui/Field'
import { folded } from './library'

interface Props {
  page: RecordingPage

  transcript: TranscriptPage
  at: number
  onGo: (at: number) => void
}

/** What is said, in words: it follows the film, is searched, leads to its place, and is corrected by whoever keeps the recording. */
export function TranscriptList({ page, transcript, at, onGo }: Props) {
  const { t } = useTranslation()
  const [find, setFind] = useState('')
  const [editing, setEditing] = useState<number | null>(null)
  const queries = useQueryClient()
  const correct = useMutation({
    mutationFn: ({ line, text }: { line: number; text: string | null }) => recordings.correctLine(page.recording.id, line, text),
    onSuccess: async () => {
      setEditing(null)
      await queries.invalidateQueries({ queryKey: ['transcript', page.recording.id] })
    },
  })
  const rows = useMemo(() => {
    const wanted = folded(find)
    return transcript.cues.filter((cue) => folded(cue.text).includes(wanted) || folded(cue.name).includes(wanted))
  }, [transcript, find])
  const now = rows.findLastIndex((cue) => cue.from <= at)
  const list = useRef<HTMLOListElement>(null)
  useEffect(() => {
    // The list follows, and moves nothing but itself; while a line is corrected it stays.
    const row = editing === null ? (list.current?.children[now] as HTMLElement | undefined) : undefined
    if (row && list.current) list.current.scrollTop = row.offsetTop - list.current.offsetTop - list.current.clientHeight / 2
  }, [now, editing])
  if (transcript.cues.length === 0 && transcript.takenOut.length === 0) return null
  return (
    <section aria-label={t('player.transcript')} className="flex min-h-0 flex-col">
      <h2 className="mb-1 font-serif text-[1.062rem] font-semibold">{t('player.transcript')}</h2>
      <Field label={t('player.findWords')} type="search" value={find} onChange={(e) => setFind(e.target.value)} />
      <p role="status" className="text-[0.812rem] text-ink2">
        {find.trim() !== '' && t('player.found', { count: rows.length })}
      </p>
      <ol ref={list} className="mt-1 max-h-96 overflow-auto border border-line bg-paper">
        {rows.map((cue, index) => (
          <li key={cue.line} className={clsx('group', index === now && at < cue.to ? 'bg-plum-soft' : '')}>
            {editing === cue.line ? (
              <Correct
                cue={cue}
                busy={correct.isPending}
                onKeep={(text) => correct.mutate({ line: cue.line, text })}
                onLeave={() => setEditing(null)}
              />
            ) : (
              <div className="flex items-start">
                <button
                  className="flex min-h-7 min-w-0 flex-1 items-baseline gap-2 px-2 py-0.5 text-left text-[0.875rem] hover:bg-linen"
                  onClick={() => onGo(cue.from)}
                >
                  <span className="w-12 shrink-0 text-[0.812rem] text-ink2 tabular-nums">{clock(cue.from)}</span>
                  <span className="min-w-0 break-words">
                    {cue.name !== '' && cue.name !== rows[index - 1]?.name && (
                      <b className="block text-[0.812rem] font-semibold">{cue.name}</b>
                    )}
                    {cue.text}
                    {cue.draft && <span className="ml-1 text-[0.781rem] text-ink2">({t('captions.draft')})</span>}
                  </span>
                </button>
                {page.keeps && (
                  <Button
                    small
                    look="text"
                    aria-label={t('player.correctAt', { at: clock(cue.from) })}
                    onClick={() => setEditing(cue.line)}
                  >
                    {t('player.correct')}
                  </Button>
                )}
              </div>
            )}
          </li>
        ))}
      </ol>
      <Failure of={[correct.error]} />
      {page.keeps && transcript.takenOut.length > 0 && (
        <p className="mt-1 flex items-center gap-2 text-[0.844rem] text-ink2">
          <span className="flex-1">{t('player.linesOut', { count: transcript.takenOut.length })}</span>
          <Button
            small
            onClick={() => {
              for (const line of transcript.takenOut) correct.mutate({ line, text: null })
            }}
          >
            {t('player.linesBack')}
          </Button>
        </p>
      )}
    </section>
  )
}

interface CorrectProps {
  cue: CueRow
  busy: boolean
  onKeep: (text: string | null) => void
  onLeave: () => void
}

function Correct({ cue, busy, onKeep, onLeave }: CorrectProps) {
  const { t } = useTranslation()
  const [text, setText] = useState(cue.text)
  return (
    <form
      className="flex flex-col gap-1.5 border-l-4 border-brass p-2"
      onSubmit={(event) => {
        event.preventDefault()
        if (text.trim() === cue.text) onLeave()
        else onKeep(text)
      }}
    >
      <textarea
        ref={focus}
        aria-label={t('player.correctAt', { at: clock(cue.from) })}
        className="w-full rounded-sm border border-edge bg-raised p-1.5 text-[0.906rem]"
        rows={3}
        maxLength={300}
        value={text}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={(e) => {
          e.stopPropagation()
          if (e.key === 'Escape') onLeave()
          if (e.key === 'Enter' && !e.shiftKey && !e.nativeEvent.isComposing) {
            e.preventDefault()
            e.currentTarget.form?.requestSubmit()
          }
        }}
      />
      <div className="flex flex-wrap gap-1.5">
        <Button small look="primary" type="submit" disabled={busy}>
          {t('captions.keep')}
        </Button>
        <Button small disabled={busy} onClick={() => onKeep('')}>
          {t('player.lineOut')}
        </Button>
        {cue.corrected && (
          <Button small disabled={busy} onClick={() => onKeep(null)}>
            {t('player.lineAsWas')}
          </Button>
        )}
        <Button small look="text" onClick={onLeave}>
          {t('common.back')}
        </Button>
      </div>
    </form>
  )
}

const focus = (field: HTMLTextAreaElement | null) => field?.focus()

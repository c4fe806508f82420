import { useEffect, useRef, useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { CaptionRow, MeRow } from '../contract.generated'
import { timeOfDay } from '../i18n'
import { wish } from '../live/connection'
import { useLive } from '../live/store'
import { useKeymap } from '../settings/keymap'
import { Button } from '../ui/Button'
import { Select, Tick } from '../ui/Field'
import { CaptionerDesk } from './CaptionerDesk'
import { CaptionMakers } from './CaptionMakers'
import { captionPlaces, captionSizes, read, useCaptions, useReading, type CaptionPlace } from './store'

/** What is said in words: how one reads it, all of it since one came in, and for those who make it, how. */
export function CaptionsSide({ me }: { me: MeRow }) {
  const { t } = useTranslation()
  const { on, size, place } = useReading()
  const any = useLive((state) => state.sitting?.captions.on ?? false)
  const key = useKeymap((map) => map.captions)
  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col">
      <h2 className="px-3 py-2 font-serif text-[1.062rem] font-semibold">{t('captions.title')}</h2>
      {me.viewer === 'bench' && <CaptionMakers me={me} />}
      {me.captioner ? (
        <CaptionerDesk captioner={me.captioner} />
      ) : (
        <section className="border-b border-line px-3 pb-2" aria-label={t('captions.reading')}>
          <Tick label={t('captions.show', { key })} checked={on} onChange={(e) => read({ on: e.target.checked })} />
          {on && (
            <div className="grid grid-cols-2 gap-2">
              <Select label={t('captions.place')} value={place} onChange={(e) => read({ place: e.target.value as CaptionPlace })}>
                {captionPlaces.map((one) => (
                  <option key={one} value={one}>
                    {t(`captions.places.${one}`)}
                  </option>
                ))}
              </Select>
              <Select label={t('captions.size')} value={size} onChange={(e) => read({ size: Number(e.target.value) })}>
                {captionSizes.map((one) => (
                  <option key={one} value={one}>
                    {t('settings.percent', { count: one })}
                  </option>
                ))}
              </Select>
            </div>
          )}
          <p className="text-[0.812rem] text-ink2">{t(any ? 'captions.yours' : 'captions.off')}</p>
        </section>
      )}
      <Lines me={me} />
    </div>
  )
}

function Lines({ me }: { me: MeRow }) {
  const { t } = useTranslation()
  const lines = useCaptions((state) => state.lines)
  const list = useRef<HTMLOListElement>(null)
  const [follows, setFollows] = useState(true)
  useEffect(() => {
    if (follows && list.current) list.current.scrollTop = list.current.scrollHeight
  }, [lines, follows])
  const corrects = me.captioner !== null || me.viewer === 'bench'
  return (
    <ol
      ref={list}
      aria-label={t('captions.lines')}
      className="min-h-0 flex-1 overflow-auto px-3 py-2"
      onScroll={(e) => {
        const { scrollTop, scrollHeight, clientHeight } = e.currentTarget
        setFollows(scrollHeight - scrollTop - clientHeight < 24)
      }}
    >
      {lines.length === 0 && <li className="text-[0.875rem] text-ink2">{t('captions.none')}</li>}
      {lines.map((line, index) => (
        <Line key={line.number} line={line} named={line.speaker !== lines[index - 1]?.speaker} corrects={corrects} />
      ))}
    </ol>
  )
}

function Line({ line, named, corrects }: { line: CaptionRow; named: boolean; corrects: boolean }) {
  const { t } = useTranslation()
  const [text, setText] = useState<string | null>(null)
  const keep = async () => {
    if (text === null) return
    if (text.trim() === line.text || (await wish({ do: 'correctCaption', line: line.number, text }))) setText(null)
  }
  return (
    <li className="text-[0.906rem] leading-snug">
      {named && (
        <p className="mt-1.5 flex gap-2 text-[0.812rem] text-ink2">
          <b className="font-semibold">{line.name ?? t('captions.somebody')}</b>
          <span className="tabular-nums">{timeOfDay(line.heard)}</span>
        </p>
      )}
      {text !== null ? (
        <form
          className="my-1 flex gap-1.5"
          onSubmit={(event) => {
            event.preventDefault()
            void keep()
          }}
        >
          <input
            ref={focus}
            aria-label={t('captions.correct')}
            className="min-h-8 min-w-0 flex-1 rounded-sm border border-edge bg-raised px-2"
            value={text}
            maxLength={300}
            onChange={(e) => setText(e.target.value)}
            onKeyDown={(e) => {
              if (e.key !== 'Escape') return
              e.stopPropagation()
              setText(null)
            }}
          />
          <Button small type="submit" look="primary">
            {t('captions.keep')}
          </Button>
        </form>
      ) : corrects ? (
        <button
          className="w-full rounded-sm text-left break-words hover:bg-felt-soft"
          title={t('captions.correct')}
          onClick={() => setText(line.text)}
        >
          {line.text}
          {line.draft && <span className="ml-1 text-[0.781rem] text-ink2">({t('captions.draft')})</span>}
        </button>
      ) : (
        <p className="break-words">{line.text}</p>
      )}
    </li>
  )
}

const focus = (field: HTMLInputElement | null) => field?.focus()

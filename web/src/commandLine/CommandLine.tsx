import { clsx } from 'clsx'
import { useEffect, useId, useRef, useState, type KeyboardEvent } from 'react'
import { flushSync } from 'react-dom'
import { useTranslation } from 'react-i18next'
import type { ReadingRow, SeatCommand } from '../contract.generated'
import { questions, sentenceOfRefusal, wish } from '../live/connection'
import { useLive } from '../live/store'
import { deedOf } from '../ledger/sentence'
import { usePresets } from '../orders/PresetSection'
import { useShifts } from '../orders/useForesight'
import { useKeymap } from '../settings/keymap'

/** Past lines, newest last. */
const past: string[] = []

/** Type what should happen; it is completed and told before Enter does it. */
export function CommandLine() {
  const inputRef = useRef<HTMLInputElement>(null)
  const { t } = useTranslation()
  const id = useId()
  const [line, setLine] = useState('')
  const [at, setAt] = useState(-1)
  const [open, setOpen] = useState(false)
  // What cannot be taken back wants a second Enter.
  const [sure, setSure] = useState(false)
  const back = useRef(0)
  const { reading, readNow } = useReading(line)
  const completions = reading?.completions ?? []
  const reset = () => {
    setAt(-1)
    setSure(false)
    back.current = 0
  }
  const change = (text: string) => {
    setLine(text)
    setOpen(true)
    reset()
  }
  const readingNow = useRef(false)
  /** Reads the line and sends what it means. The next line may be typed at once. */
  const enter = async () => {
    if (at >= 0 && completions[at]) return change(completions[at])
    if (readingNow.current) return
    readingNow.current = true
    const now = await readNow()
    readingNow.current = false
    if (!now?.command) return
    if (cannotBeTakenBack(now.command) && !sure && !now.foresight?.refusal) return setSure(true)
    // Taken before another Enter can come, so that nothing goes twice.
    flushSync(() => {
      setLine((typed) => (typed.startsWith(line) ? typed.slice(line.length) : typed))
      reset()
    })
    if (past[past.length - 1] !== line) past.push(line)
    if (!(await wish(now.command))) setLine((typed) => (typed === '' ? line : typed))
  }
  const press = (event: KeyboardEvent) => {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key]
    if (event.key === 'Enter') void enter()
    else if (event.key === 'Tab' && !event.shiftKey && completions.length > 0 && line !== '')
      change(completions[Math.max(0, at)]!)
    else if (line === '' && event.key === useKeymap.getState().line) {
      // The key that leads here is no letter of a line.
    } else if (event.key === 'Escape') {
      if (line === '') inputRef.current?.blur()
      change('')
      setOpen(false)
    } else if (
      event.key === 'ArrowUp' &&
      line === (back.current === 0 ? '' : past[past.length - back.current]) &&
      past.length > back.current
    ) {
      back.current++
      setLine(past[past.length - back.current]!)
    } else if (step && completions.length > 0)
      setAt((at + step + completions.length + (at < 0 && step < 0 ? 1 : 0)) % completions.length)
    else return
    event.preventDefault()
  }
  const shown = open && line !== '' && reading !== null
  return (
    <div className="relative min-w-0 flex-1">
      <input
        ref={inputRef}
        data-line
        role="combobox"
        aria-expanded={shown && completions.length > 0}
        aria-controls={`${id}-list`}
        aria-activedescendant={at >= 0 ? `${id}-${at}` : undefined}
        aria-autocomplete="list"
        aria-describedby={`${id}-foresight`}
        aria-label={t('command.label')}
        placeholder={t('command.placeholder')}
        aria-keyshortcuts="/"
        autoComplete="off"
        spellCheck={false}
        value={line}
        onChange={(e) => change(e.target.value)}
        onFocus={() => setOpen(true)}
        onBlur={() => setOpen(false)}
        onKeyDown={press}
        className="h-8 w-full border border-edge bg-raised px-2.5 text-[0.906rem]"
      />
      <div
        className={
          shown
            ? clsx(
                'absolute bottom-9 left-0 z-20 w-max max-w-[min(40rem,90vw)] min-w-full border border-felt',
                'bg-raised shadow-[0_6px_24px_rgb(0_0_0/0.18)]',
              )
            : 'contents'
        }
      >
        {shown && completions.length > 0 && (
          <ul id={`${id}-list`} role="listbox" aria-label={t('command.completions')} className="border-b border-line py-1">
            {completions.map((text, n) => (
              <li
                key={text}
                id={`${id}-${n}`}
                role="option"
                aria-selected={n === at}
                // A press would take the focus from the line.
                onMouseDown={(e) => {
                  e.preventDefault()
                  change(text)
                }}
                className={`cursor-pointer px-3 py-0.5 text-[0.906rem] ${n === at ? 'bg-felt text-on-felt' : 'hover:bg-felt-soft'}`}
              >
                {text}
              </li>
            ))}
          </ul>
        )}
        <div id={`${id}-foresight`} role="status" className={shown ? 'px-3 py-2 text-[0.875rem]' : 'sr-only'}>
          {shown && sure ? <AskOnce reading={reading} /> : shown && <Foretold reading={reading} />}
        </div>
      </div>
    </div>
  )
}

const cannotBeTakenBack = (command: SeatCommand) => command.do === 'adjourn' || (command.do === 'remove' && !command.mayReturn)

/** Names what is lost, before it is. */
function AskOnce({ reading }: { reading: ReadingRow }) {
  const { t } = useTranslation()
  const others = useLive(({ sitting }) => (sitting ? sitting.counts.inside - 1 + sitting.counts.waiting : 0))
  const count = reading.command?.do === 'adjourn' ? others : (reading.foresight?.touches ?? 0)
  return (
    <p className="border-l-4 border-brick pl-2 font-semibold">
      {t(reading.command?.do === 'adjourn' ? 'command.sureAdjourn' : 'command.sureRemove', { count })}
    </p>
  )
}

/** What Enter would do, or what is missing. */
function Foretold({ reading }: { reading: ReadingRow }) {
  const { t } = useTranslation()
  const shiftsOf = useShifts()
  const { foresight, misreading, about } = reading
  if (misreading)
    return (
      <p className={misreading === 'unfinished' ? 'text-ink2' : 'text-brick'}>
        {t(`command.misreading.${misreading}`, { about })}
      </p>
    )
  if (!foresight) return null
  if (foresight.refusal) return <p className="text-brick">{sentenceOfRefusal(foresight.refusal)}</p>
  return (
    <>
      <p>
        <b className="font-semibold">{t('command.enter')}</b> {foresight.does.map((row) => deedOf(t, row)).join(', ')}
        {foresight.does.length === 0 && t('command.doesIt')}
        {foresight.touches > 0 && <span className="text-ink2"> · {t('foresight.touches', { count: foresight.touches })}</span>}
      </p>
      {foresight.brings && <p className="text-ink2">{t('foresight.brings', { name: foresight.brings })}</p>}
      {shiftsOf(foresight).map((line) => (
        <p key={line} className="text-ink2">
          {line}
        </p>
      ))}
    </>
  )
}

/** What the server makes of the line; asked as one types, and anew when the sitting changes. */
function useReading(line: string) {
  const presets = usePresets().data
  const v = useLive((state) => state.v)
  const [known, setKnown] = useState<{ line: string; reading: ReadingRow | null }>({ line: '', reading: null })
  const read = async () => {
    const reading = await questions.read(
      line,
      (presets ?? []).map(({ name, door, orders }) => ({ name, door, orders })),
    )
    setKnown({ line, reading })
    return reading
  }
  const newest = useRef(read)
  useEffect(() => {
    newest.current = read
  })
  useEffect(() => {
    if (line === '') return
    const timer = setTimeout(() => void newest.current(), 40)
    return () => clearTimeout(timer)
  }, [line, v])
  return {
    reading: known.line === line ? known.reading : null,
    readNow: () => (known.line === line && known.reading ? Promise.resolve(known.reading) : read()),
  }
}

import { clsx } from 'clsx'
import { useEffect, useRef, useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { CaptionerRow } from '../contract.generated'
import { wish } from '../live/connection'
import { isHere } from '../rooms/bays'
import { useLive } from '../live/store'
import { useMedia } from '../media/engine'
import { Button } from '../ui/Button'
import { ShortFormList } from './ShortFormList'
import { useShortForms } from './shortForms'
import { useCaptions } from './store'
import { Delay, longestLine, ready, writtenOut } from './typing'

/** As many people as there are keys for. */
const most = 9

/** For so long after somebody fell silent a line is taken to be theirs, in milliseconds. */
const remembers = 8_000

/** The desk of whoever writes what is said: who speaks, the line, and how far one is behind. */
export function CaptionerDesk({ captioner }: { captioner: CaptionerRow }) {
  const { t } = useTranslation()
  const [text, setText] = useState('')
  const [chosen, setChosen] = useState<number | null>(null)
  const [correcting, setCorrecting] = useState<number | null>(null)
  const [unsent, setUnsent] = useState<readonly string[]>([])
  const box = useRef<HTMLTextAreaElement>(null)
  const people = useSpeakers()
  const heard = useMedia((state) => state.speaker)
  const forms = useShortForms((state) => state.forms)
  const [delay] = useState(() => new Delay())
  const [behind, setBehind] = useState<number>(Delay.usual)
  const began = useRef<{ at: number; speaker: number | null } | null>(null)
  const queue = useRef(Promise.resolve())
  const lastHeard = useRef<{ seat: number; at: number } | null>(null)
  useEffect(() => {
    if (heard !== null) delay.heard(Date.now())
    // Whoever has just fallen silent is still the one whose words are typed.
    return () => {
      if (heard !== null) lastHeard.current = { seat: heard, at: Date.now() }
    }
  }, [heard, delay])
  const speakerNow = () => {
    const last = lastHeard.current
    return chosen ?? heard ?? (last && Date.now() - last.at < remembers ? last.seat : null)
  }
  useEffect(() => {
    if (captioner.turn) box.current?.focus()
  }, [captioner.turn])
  const begin = () => {
    if (began.current) return
    delay.typed(Date.now())
    setBehind(delay.value)
    began.current = { at: Date.now(), speaker: speakerNow() }
  }
  const send = (line: string) => {
    const start = began.current ?? { at: Date.now(), speaker: speakerNow() }
    began.current = null
    if (line.trim() === '') return
    // One after the other, so that a line that has to be sent again is not overtaken.
    queue.current = queue.current.then(async () => {
      const ago = Math.min(60_000, Math.max(0, Date.now() - start.at + delay.value))
      const done = await wish({ do: 'writeCaption', text: line.slice(0, longestLine), speaker: start.speaker, ago })
      if (!done) setUnsent((all) => [...all, line])
    })
  }
  const type = (typed: string) => {
    if (correcting !== null) return setText(typed)
    if (typed.trim() !== '') begin()
    const [goes, stays] = ready(typed.length > text.length ? writtenOut(typed, forms) : typed)
    if (goes) send(goes)
    if (goes && stays) begin()
    if (!goes && stays.trim() === '') began.current = null
    setText(stays)
  }
  const enter = async () => {
    if (correcting === null) {
      send(text)
      setText('')
    } else if (await wish({ do: 'correctCaption', line: correcting, text })) {
      setCorrecting(null)
      setText('')
    }
  }
  const correctLast = () => {
    const last = useCaptions.getState().lines.at(-1)
    if (!last) return
    setCorrecting(last.number)
    setText(last.text)
  }
  const onKey = (event: React.KeyboardEvent) => {
    if (event.nativeEvent.isComposing) return
    const digit = /^Digit([0-9])$/.exec(event.code)
    if (event.altKey && digit) {
      event.preventDefault()
      const at = Number(digit[1])
      choose(at === 0 ? null : (people[at - 1]?.id ?? chosen))
    } else if (event.key === 'Enter' && !event.shiftKey) {
      event.preventDefault()
      void enter()
    } else if (event.key === 'ArrowUp' && text === '') {
      event.preventDefault()
      correctLast()
    } else if (event.key === 'Escape' && correcting !== null) {
      event.stopPropagation()
      setCorrecting(null)
      setText('')
    }
  }
  const choose = (seat: number | null) => {
    // What was begun for somebody else goes first.
    if (correcting === null && text.trim() !== '') {
      send(text)
      setText('')
    }
    setChosen(seat)
  }
  if (!captioner.turn)
    return (
      <section aria-label={t('captions.desk')} className="border-y border-line bg-raised px-3 py-3 text-[0.906rem]">
        <p className="mb-2">{t('captions.otherWrites', { name: captioner.writer ?? '' })}</p>
        <Button look="primary" onClick={() => void wish({ do: 'takeCaptionTurn' })}>
          {t('captions.takeTurn')}
        </Button>
      </section>
    )
  const nameOf = (id: number | null) => people.find((one) => one.id === id)?.name
  return (
    <section
      aria-label={t('captions.desk')}
      className="border-y border-l-[6px] border-y-line border-l-plum bg-raised px-3 py-2.5"
    >
      <p className="flex items-baseline gap-2 text-[0.844rem]">
        <b className="flex-1 font-semibold">{t('captions.youWrite')}</b>
        <span className="text-ink2 tabular-nums" title={t('captions.delayHint')}>
          {t('captions.delay', { seconds: (behind / 1000).toLocaleString(undefined, { maximumFractionDigits: 1 }) })}
        </span>
      </p>
      <div role="group" aria-label={t('captions.speaker')} className="mt-1.5 flex max-h-24 flex-wrap gap-1 overflow-auto">
        <Speaker
          digit={0}
          name={nameOf(heard) ? t('captions.heardNow', { name: nameOf(heard) }) : t('captions.whoever')}
          on={chosen === null}
          onClick={() => choose(null)}
        />
        {people.map((one, index) => (
          <Speaker
            key={one.id}
            digit={index < most ? index + 1 : null}
            name={one.name}
            on={chosen === one.id}
            onClick={() => choose(one.id)}
          />
        ))}
      </div>
      {unsent.length > 0 && (
        <div role="alert" className="mt-2 border-l-4 border-brick px-2 text-[0.844rem]">
          <p className="font-medium text-brick">{t('captions.unsent', { count: unsent.length })}</p>
          <Button
            small
            onClick={() => {
              setUnsent([])
              unsent.forEach(send)
            }}
          >
            {t('captions.sendAgain')}
          </Button>
        </div>
      )}
      <label className="mt-2 block">
        <span className="text-[0.812rem] font-semibold">
          {correcting === null ? t('captions.line') : t('captions.correctLine')}
        </span>
        <textarea
          ref={box}
          rows={3}
          value={text}
          maxLength={longestLine}
          onChange={(e) => type(e.target.value)}
          onKeyDown={onKey}
          className={clsx(
            'mt-0.5 w-full rounded-sm border bg-paper p-2 text-[1.062rem]',
            correcting === null ? 'border-edge' : 'border-brass',
          )}
        />
      </label>
      <p className="mt-1 text-[0.781rem] text-ink2">{t('captions.deskKeys')}</p>
      <ShortFormList />
      {captioner.others > 0 && (
        <p className="mt-1 text-[0.812rem] text-ink2">{t('captions.others', { count: captioner.others })}</p>
      )}
    </section>
  )
}

function Speaker({ digit, name, on, onClick }: { digit: number | null; name: string; on: boolean; onClick: () => void }) {
  return (
    <button
      aria-pressed={on}
      onClick={onClick}
      className={clsx(
        'min-h-7 rounded-sm border px-1.5 text-[0.812rem]',
        on ? 'border-plum bg-plum-soft font-semibold' : 'border-line bg-paper hover:bg-felt-soft',
      )}
    >
      {digit !== null && <kbd className="mr-1 font-sans text-[0.719rem] text-ink2">{digit}</kbd>}
      {name}
    </button>
  )
}

/** Those who may be heard, in an order that stays: presenters and the bench, then by name. */
function useSpeakers() {
  const seats = useLive((state) => state.seats)
  const me = useLive((state) => state.me)
  const rank = { host: 0, deputy: 1, presenter: 2, attendee: 3 }
  return [...seats.values()]
    .filter((seat) => isHere(seat, me) && (seat.microphone === 'open' || seat.role !== 'attendee'))
    .sort((a, b) => rank[a.role] - rank[b.role] || a.name.localeCompare(b.name))
}

import { clsx } from 'clsx'
import { useState, type FormEvent } from 'react'
import { useTranslation } from 'react-i18next'
import type { BenchNote, Role, SeatRow } from '../contract.generated'
import { useStartOf } from '../docket/outlook'
import { useRecognition } from '../docket/useRecognition'
import { timeOfDay } from '../i18n'
import { wish } from '../live/connection'
import { useLive } from '../live/store'
import { Button } from '../ui/Button'
import { Choice } from '../ui/Choice'
import { Field } from '../ui/Field'
import { Panel } from '../ui/Panel'
import { openChatTo } from '../chat/store'
import { toggleFront } from '../picture/view'
import { Collapsible } from 'radix-ui'
import { acts } from './acts'
import { ExceptionForm } from '../orders/ExceptionForm'
import { History } from './History'
import { useSelection } from './selection'

/** The mark at the head of a strip, which opens the person. */
export function PersonPanel({ seat }: { seat: SeatRow }) {
  const { t } = useTranslation()
  const open = useSelection((state) => state.opened === seat.id)
  const change = (next: boolean) => useSelection.setState({ opened: next ? seat.id : null })
  return (
    <Panel
      title={seat.name}
      side="right"
      open={open}
      onOpenChange={change}
      trigger={
        <button
          aria-label={t('board.open', { name: seat.name })}
          tabIndex={-1}
          className="grid size-6 shrink-0 place-items-center rounded-sm"
        >
          <Mark seat={seat} />
        </button>
      }
    >
      <Details key={seat.name} seat={seat} onDone={() => change(false)} />
    </Panel>
  )
}

/** In the lobby how sure the match is, elsewhere the role; each with a shape of its own. */
function Mark({ seat }: { seat: SeatRow }) {
  const { t } = useTranslation()
  const base = 'grid size-5.5 place-items-center rounded-sm border text-[0.719rem] font-bold'
  if (seat.place === 'lobby' && seat.note && seat.note.recognition.reasons.length > 0 && seat.role === 'attendee') {
    const looks = {
      sure: 'border-moss bg-moss text-raised',
      likely: 'border-moss text-moss',
      twice: 'border-brass text-brass-ink',
      unknown: 'border-brick text-brick',
    }
    const signs = { sure: '✓', likely: '~', twice: '2', unknown: '?' }
    const { match } = seat.note.recognition
    return (
      <span title={t(`docket.match.${match}`)} className={`${base} ${looks[match]}`}>
        {signs[match]}
      </span>
    )
  }
  return (
    <span
      title={t(`role.${seat.role}`)}
      className={`${base} ${seat.role === 'host' ? 'border-felt bg-felt text-on-felt' : 'border-line bg-raised text-ink2'}`}
    >
      {t(`roleLetter.${seat.role}`)}
    </span>
  )
}

function Details({ seat, onDone }: { seat: SeatRow; onDone: () => void }) {
  const { t } = useTranslation()
  const mayHandOver = useLive((state) => state.me?.may.includes('handOver')) && seat.place === 'seated' && seat.role !== 'host'
  const [name, setName] = useState(seat.name)
  const rename = async (event: FormEvent) => {
    event.preventDefault()
    if (await wish({ do: 'rename', seat: seat.id, name })) onDone()
  }
  const act = (done: Promise<boolean>) => void done.then((did) => did && onDone())
  return (
    <div className="flex flex-col gap-3">
      {seat.note?.looksLike && (
        <p className="border-l-4 border-brick pl-3 text-[0.875rem]">{t('board.looksLikeHint', { name: seat.note.looksLike })}</p>
      )}
      {seat.place === 'lobby' && seat.note && <Recognized seat={seat} note={seat.note} />}
      <form onSubmit={(event) => void rename(event)} className="flex items-end gap-2">
        <div className="flex-1">
          <Field label={t('act.renameLabel')} value={name} onChange={(e) => setName(e.target.value)} />
        </div>
        <Button type="submit">{t('act.rename')}</Button>
      </form>
      {seat.place !== 'gone' && seat.role !== 'host' && (
        <>
          <Choice<Role>
            label={t('act.role')}
            value={seat.role}
            options={[
              { value: 'attendee', label: t('act.makeAttendee') },
              { value: 'presenter', label: t('act.makePresenter') },
              { value: 'deputy', label: t('act.makeDeputy') },
            ]}
            onChange={(role) => void acts.giveRole([seat], role)}
          />
          <div className="flex flex-wrap gap-2 border-t border-line pt-3">
            {seat.place === 'seated' && (
              <>
                <Button small onClick={() => act(acts.putInFront([seat]))}>
                  {t('act.frontForAll')}
                </Button>
                <Button
                  small
                  onClick={() => {
                    toggleFront(seat.id)
                    onDone()
                  }}
                >
                  {t('act.frontForMe')}
                </Button>
                <Button
                  small
                  onClick={() => {
                    openChatTo(seat.id)
                    onDone()
                  }}
                >
                  {t('act.write')}
                </Button>
                <Button small onClick={() => act(acts.sendToLobby([seat]))}>
                  {t('act.lobby')}
                </Button>
              </>
            )}
            <Button small look="end" onClick={() => act(acts.remove([seat], true))}>
              {t('act.removeBack')}
            </Button>
          </div>
        </>
      )}
      {mayHandOver && <HandOver seat={seat} onDone={onDone} />}
      {(seat.role === 'attendee' || seat.role === 'presenter') && seat.place !== 'gone' && (
        <Folded title={t('act.orders')}>
          <ExceptionForm chosen={[seat]} />
        </Folded>
      )}
      <Folded title={t('person.details')}>
        <History seat={seat} />
      </Folded>
    </div>
  )
}

function Folded({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <Collapsible.Root className="border-t border-line pt-2">
      <Collapsible.Trigger
        className={clsx(
          'flex min-h-7 w-full items-center text-left text-[0.875rem] font-semibold underline',
          'decoration-line decoration-2 underline-offset-4',
        )}
      >
        {title}
      </Collapsible.Trigger>
      <Collapsible.Content className="pt-2">{children}</Collapsible.Content>
    </Collapsible.Root>
  )
}

/** Who the person at the door is thought to be, and why. */
function Recognized({ seat, note }: { seat: SeatRow; note: BenchNote }) {
  const { t } = useTranslation()
  const { reasonsOf } = useRecognition()
  const start = useStartOf(seat.id)
  const { line, recognition } = note
  if (recognition.reasons.length === 0) return null
  return (
    <div className="border-l-4 border-brass pl-3 text-[0.875rem]">
      <p className="font-semibold">
        {line
          ? t('docket.thoughtToBe', {
              match: t(`docket.match.${recognition.match}`),
              name: line.name,
              percent: Math.round(recognition.confidence * 100),
            })
          : t('docket.thoughtToBeNobody')}
      </p>
      <ul className="mt-1 list-inside list-disc text-[0.844rem]">
        {reasonsOf(note).map((reason) => (
          <li key={reason}>{reason}</li>
        ))}
      </ul>
      {line?.slot && (
        <p className="mt-1 text-[0.844rem]">
          {t('docket.slot', { time: timeOfDay(line.slot), count: line.minutes ?? 15 })}
          {line.group && ` · ${line.group}`}
        </p>
      )}
      {start && <p className="mt-1 text-[0.844rem]">{t('docket.expectedAt', { time: timeOfDay(start.at) })}</p>}
    </div>
  )
}

function HandOver({ seat, onDone }: { seat: SeatRow; onDone: () => void }) {
  const { t } = useTranslation()
  const [asking, setAsking] = useState(false)
  if (!asking)
    return (
      <Button small className="self-start" onClick={() => setAsking(true)}>
        {t('act.handOver')}
      </Button>
    )
  return (
    <div className="border-l-4 border-brass pl-3">
      <p className="mb-2 text-[0.875rem]">{t('act.handOverHint', { name: seat.name })}</p>
      <Button small look="primary" onClick={() => void wish({ do: 'handOver', to: seat.id }).then((did) => did && onDone())}>
        {t('act.handOverConfirm', { name: seat.name })}
      </Button>
    </div>
  )
}

import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import { sittingAddress } from '../api/client'
import type { Audience, RoomForm, StandingOrders } from '../contract.generated'
import { clock, listOf } from '../i18n'
import { wish } from '../live/connection'
import { useLive, type Sitting } from '../live/store'
import { useNow } from '../live/time'
import { Button } from '../ui/Button'
import { Words } from '../ui/Field'
import { Panel, PanelClose } from '../ui/Panel'
import { audiences, orders } from '../orders/orders'
import { RoomEditor } from './RoomEditor'
import { belongsInRooms, newForm, roomName } from './words'

/** For the bench: plans rooms, opens them, and does what is for all of them. What is for one stands at its bay of the board. */
export function RoomsSide({ id, sitting }: { id: string; sitting: Sitting }) {
  const { t } = useTranslation()
  const { rooms } = sitting
  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col">
      <h2 className="px-3 pt-2 pb-1.5 font-serif text-[1.062rem] font-semibold">{t('rooms.title')}</h2>
      {/* Scrolled with the keyboard, so it takes the focus. */}
      {/* eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex */}
      <div tabIndex={0} role="region" aria-label={t('rooms.title')} className="min-h-0 flex-1 overflow-y-auto px-3 pb-3">
        <div className="flex flex-col gap-4">
          {rooms.open.length > 0 ? <OpenRooms rooms={rooms} /> : <Planned id={id} rooms={rooms} />}
          {(rooms.open.length > 0 || rooms.draft) && <ExportPlan id={id} />}
          {rooms.rounds > 0 && (
            <a
              href={sittingAddress(id, 'rounds.csv')}
              download
              className="self-start text-[0.844rem] underline underline-offset-4"
            >
              {t('rooms.saveRounds')}
            </a>
          )}
          {rooms.orders && <RoomOrders orders={rooms.orders} />}
        </div>
      </div>
    </div>
  )
}

/** Who goes where, as a table. */
function ExportPlan({ id }: { id: string }) {
  const { t } = useTranslation()
  return (
    <a href={sittingAddress(id, 'rooms.csv')} download className="self-start text-[0.844rem] underline underline-offset-4">
      {t('rooms.exportWhole')}
    </a>
  )
}

/** What holds in all rooms, also before they open; the hall has orders of its own. */
function RoomOrders({ orders: standing }: { orders: StandingOrders }) {
  const { t } = useTranslation()
  return (
    <details>
      <summary className="cursor-pointer text-[0.844rem] font-semibold text-felt-ink underline underline-offset-4">
        {t('rooms.orders')}
      </summary>
      <p className="mt-1.5 text-[0.812rem] text-ink2">{t('rooms.ordersHint')}</p>
      <div className="mt-2 flex flex-col gap-1">
        {orders.map((order) => (
          <label key={order} className="flex items-center justify-between gap-2 text-[0.844rem]">
            <span className="min-w-0 flex-1 font-semibold">{t(`orders.name.${order}`)}</span>
            <select
              className="min-h-8 w-32 shrink-0 rounded-sm border border-edge bg-raised px-1.5"
              value={standing[order]}
              onChange={(e) => void wish({ do: 'setRoomsOrder', order, to: e.target.value as Audience })}
            >
              {audiences.map((audience) => (
                <option key={audience} value={audience}>
                  {t(`orders.audience.${audience}`)}
                </option>
              ))}
            </select>
          </label>
        ))}
      </div>
    </details>
  )
}

function Planned({ id, rooms }: { id: string; rooms: Sitting['rooms'] }) {
  const { t } = useTranslation()
  const people = useLive((state) => [...state.seats.values()].filter(belongsInRooms).length)
  const [editing, setEditing] = useState(false)
  const { draft } = rooms
  const plan = async (form: RoomForm) => {
    const done = await wish({ do: 'planRooms', form, basis: draft?.number ?? 0, byHand: true })
    if (done) setEditing(false)
    return done
  }
  if (editing || (!draft && rooms.rounds === 0))
    return (
      <>
        {!draft && <p className="text-[0.844rem] text-ink2">{t('rooms.noneYet')}</p>}
        <RoomEditor
          key={draft?.number ?? 0}
          form={draft?.form ?? rooms.last ?? newForm(Math.max(2, Math.round(people / 5)))}
          people={people}
          sitting={id}
          onPlan={plan}
          onClose={draft || rooms.rounds > 0 ? () => setEditing(false) : null}
        />
      </>
    )
  if (!draft)
    return (
      <section aria-label={t('rooms.plan')} className="flex flex-col gap-2">
        <p className="text-[0.844rem] text-ink2">{t('rooms.roundsDone', { count: rooms.rounds })}</p>
        <p className="text-[0.844rem]">{t('rooms.anotherHint')}</p>
        <div className="flex flex-wrap gap-1.5">
          <Button look="primary" onClick={() => void wish({ do: 'planAnotherRound' })}>
            {t('rooms.another')}
          </Button>
          <Button onClick={() => setEditing(true)}>{t('rooms.change')}</Button>
        </div>
      </section>
    )
  return <Draft rooms={rooms} onEdit={() => setEditing(true)} onPlan={plan} />
}

interface DraftProps {
  rooms: Sitting['rooms']
  onEdit: () => void
  onPlan: (form: RoomForm) => Promise<boolean>
}

/** What the plan reached, and what it could not, in words. */
function Draft({ rooms, onEdit, onPlan }: DraftProps) {
  const { t } = useTranslation()
  const seats = useLive((state) => state.seats)
  const draft = rooms.draft!
  const nameOf = (id: number) => seats.get(id)?.name ?? ''
  const empty = draft.form.rooms.filter((_, at) => !draft.people.some((one) => one.room === at)).length
  const again = rooms.rounds > 0
  return (
    <section aria-label={t('rooms.draft')} className="flex flex-col gap-2.5">
      <h3 className="text-[0.844rem] font-semibold">{t('rooms.draft')}</h3>
      <p className="font-serif text-[1.062rem] font-semibold">
        {t('rooms.inRooms', { count: draft.people.length, rooms: draft.form.rooms.length })}
        {draft.form.minutes !== null && <span className="font-normal"> · {clock(draft.form.minutes * 60_000)}</span>}
      </p>
      <ul className="flex flex-col gap-1 text-[0.844rem] empty:hidden">
        {empty > 0 && <li>{t('rooms.empty', { count: empty })}</li>}
        {again && (
          <li>
            {draft.repeated === 0
              ? t('rooms.nobodyAgain')
              : `${t('rooms.meetAgain', { count: draft.repeated })}${draft.repeated === draft.least ? ` · ${t('rooms.fewest')}` : ''}`}
          </li>
        )}
        {draft.clashes.map((clash, at) => (
          <li key={at} className="border-l-[3px] border-l-brick pl-2 text-brick">
            {t(`rooms.clash.${clash.kind}`, { names: listOf(clash.people.map(nameOf)) })}
          </li>
        ))}
        {draft.unknown.length > 0 && (
          <li className="border-l-[3px] border-l-brick pl-2 text-brick">
            {t('rooms.unknown', { names: listOf(draft.unknown.map((name) => t('common.quoted', { text: name }))) })}
          </li>
        )}
        {draft.missing.length > 0 && (
          <li className="border-l-[3px] border-l-brick pl-2 text-brick">
            {t('rooms.missing', { names: listOf(draft.missing.map((name) => t('common.quoted', { text: name }))) })}
          </li>
        )}
        {draft.coming.length > 0 && (
          <li>{t('rooms.coming', { names: listOf(draft.coming.map((name) => t('common.quoted', { text: name }))) })}</li>
        )}
      </ul>
      {draft.form.task && <p className="text-[0.875rem] whitespace-pre-line">{draft.form.task}</p>}
      <div className="flex flex-wrap gap-1.5">
        <Button look="primary" onClick={() => void wish({ do: 'openRooms' })}>
          {t('rooms.open')}
        </Button>
        <Button onClick={() => void onPlan({ ...draft.form, seed: draft.form.seed + 1 })}>{t('rooms.planAgain')}</Button>
        <Button onClick={onEdit}>{t('rooms.change')}</Button>
        <Button look="end" onClick={() => void wish({ do: 'planRooms', form: null, basis: draft.number })}>
          {t('rooms.drop')}
        </Button>
      </div>
      <p className="text-[0.812rem] text-ink2">{t('rooms.draftHint')}</p>
    </section>
  )
}

function OpenRooms({ rooms }: { rooms: Sitting['rooms'] }) {
  const { t } = useTranslation()
  const now = useNow()
  const self = useLive((state) => state.me?.seat ?? null)
  const microphone = useLive((state) => state.me?.microphone)
  const ends = rooms.open.map((room) => room.endsAt).filter((end) => end !== null)
  const first = ends.length > 0 ? Math.min(...ends) : null
  if (rooms.opensAt !== null)
    return (
      <section
        aria-label={t('rooms.title')}
        className="flex flex-col items-start gap-2 border border-l-[5px] border-line border-l-brass bg-brass-soft p-2.5"
      >
        <p role="status" className="font-serif text-[1.062rem] font-semibold">
          {t('rooms.opensIn', { count: Math.max(0, Math.ceil((rooms.opensAt - now) / 1000)) })}
        </p>
        <Button look="end" onClick={() => void wish({ do: 'closeRooms', seconds: 0 })}>
          {t('rooms.callOff')}
        </Button>
      </section>
    )
  return (
    <>
      <section aria-label={t('rooms.areOpen')} className="flex flex-col gap-2">
        <h3 className="text-[0.844rem] font-semibold">{t('rooms.areOpen')}</h3>
        {first !== null && (
          <p className={`text-[1.062rem] font-semibold ${first - now <= 60_000 ? 'text-brick' : ''}`}>
            <time>{t('rooms.left', { time: clock(Math.max(0, first - now)) })}</time>
          </p>
        )}
        <div className="flex flex-wrap gap-1.5">
          <Button onClick={() => void wish({ do: 'giveRoomsTime', minutes: 5 })}>{t('rooms.moreTime')}</Button>
          <Button look="primary" onClick={() => void wish({ do: 'closeRooms', seconds: 60 })}>
            {t('rooms.close')}
          </Button>
          <Panel title={t('rooms.closeNow')} align="end" trigger={<Button look="end">{t('rooms.closeNow')}</Button>}>
            <p className="mb-2 text-[0.875rem]">{t('rooms.closeNowAsk')}</p>
            <PanelClose asChild>
              <Button look="end" onClick={() => void wish({ do: 'closeRooms', seconds: 0 })}>
                {t('rooms.closeNowDo')}
              </Button>
            </PanelClose>
          </Panel>
        </div>
      </section>
      <section aria-label={t('rooms.speak')} className="flex flex-col items-start gap-1.5">
        {rooms.voice !== null && (
          <p role="status" className="text-[0.875rem] font-semibold text-moss">
            {rooms.voice === self
              ? t(microphone === 'open' ? 'rooms.speaking' : 'rooms.speakingClosed')
              : t('rooms.speakingOther', { name: rooms.voiceName })}
          </p>
        )}
        <Button
          look={rooms.voice === self ? 'primary' : 'plain'}
          onClick={() => void wish({ do: 'speakToRooms', on: rooms.voice !== self })}
        >
          {t(rooms.voice === self ? 'rooms.speakStop' : 'rooms.speak')}
        </Button>
      </section>
      <Tell rooms={rooms} />
      <section aria-label={t('rooms.each')}>
        <ul className="flex flex-col gap-1">
          {rooms.open.map((room) => (
            <li key={room.number} className="flex items-center gap-1.5 border border-line bg-paper px-2 py-1">
              <span className="min-w-0 flex-1 truncate text-[0.875rem]">{roomName(t, room)}</span>
              {room.endsAt !== null && <time className="text-[0.812rem] text-ink2">{clock(Math.max(0, room.endsAt - now))}</time>}
              <Button
                small
                aria-label={t('rooms.moreTimeOf', { room: roomName(t, room) })}
                onClick={() => void wish({ do: 'giveRoomsTime', minutes: 5, room: room.number })}
              >
                +5
              </Button>
              <Button
                small
                aria-label={t('rooms.closeOne', { room: roomName(t, room) })}
                onClick={() => void wish({ do: 'closeRooms', seconds: 60, room: room.number })}
              >
                {t('rooms.closeShort')}
              </Button>
            </li>
          ))}
        </ul>
      </section>
    </>
  )
}

function Tell({ rooms }: { rooms: Sitting['rooms'] }) {
  const { t } = useTranslation()
  const [text, setText] = useState('')
  const stands = rooms.open.find((room) => room.words)?.words
  const tell = async () => {
    if (await wish({ do: 'tellRooms', text })) setText('')
  }
  return (
    <form
      className="flex flex-col items-start gap-1.5"
      onSubmit={(e) => {
        e.preventDefault()
        void tell()
      }}
    >
      <div className="w-full">
        <Words label={t('rooms.tellWords')} rows={2} maxLength={500} value={text} onChange={(e) => setText(e.target.value)} />
      </div>
      <div className="flex flex-wrap gap-1.5">
        <Button type="submit" disabled={text.trim() === ''}>
          {t('rooms.tell')}
        </Button>
        {stands && (
          <Button look="text" onClick={() => void wish({ do: 'tellRooms', text: '' })}>
            {t('rooms.tellDown')}
          </Button>
        )}
      </div>
      {stands && <p className="text-[0.812rem] break-words text-ink2">{t('common.quoted', { text: stands.text })}</p>}
    </form>
  )
}

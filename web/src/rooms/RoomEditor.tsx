import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { LateRule, RoomForm, RoomSpec, Spread } from '../contract.generated'
import { useLive } from '../live/store'
import { Button } from '../ui/Button'
import { Field, Select, Tick, Words } from '../ui/Field'
import { roomFiles } from '../api/client'
import { Failure } from '../ui/Failure'
import { FileButton } from '../ui/FileButton'
import { listOf } from '../i18n'
import { EachRoom, noWishes, type OwnWishes } from './EachRoom'
import { linesOf, namesIn, setsOf } from './words'

interface Props {
  form: RoomForm
  /** How many would be spread over the rooms. */
  people: number
  /** Whose bench reads a file; null before the session, where the host does. */
  sitting: string | null
  onPlan: (form: RoomForm) => Promise<boolean>
  onClose: (() => void) | null
  /** What the button says that keeps the wishes. */
  does?: string
}

const lateRules: readonly LateRule[] = ['smallestRoom', 'ownGroup', 'wait']
const most = 100

/** Where any has a name, those without are called by their number. */
const nameIn = (rooms: readonly RoomSpec[], at: number) =>
  rooms.some((room) => room.name) ? rooms[at]!.name || String(at + 1) : ''

const namesOf = (rooms: readonly RoomSpec[]) =>
  rooms
    .map((_, at) => nameIn(rooms, at))
    .join('\n')
    .trim()

const leadsOf = (rooms: readonly RoomSpec[]) =>
  rooms
    .map((room) => room.leads.join(', '))
    .join('\n')
    .trimEnd()

/** What a room has for itself goes with its name, wherever that stands in the list; without names it goes by its place. */
const keyOf = (name: string, at: number) => (name ? name.toLowerCase() : `#${at}`)

const ownOf = (rooms: readonly RoomSpec[]): Record<string, OwnWishes> =>
  Object.fromEntries(
    rooms.map((room, at) => [
      keyOf(nameIn(rooms, at), at),
      { people: room.people.join(', '), task: room.task ?? '', shows: room.shows ?? '' },
    ]),
  )

/** How rooms are wished. Names are taken as the command line takes them. */
export function RoomEditor({ form: first, people, sitting, onPlan, onClose, does }: Props) {
  const { t } = useTranslation()
  const groups = useLive((state) => state.sitting?.groups.names)
  const [form, setForm] = useState(first)
  const [count, setCount] = useState(String(first.rooms.length))
  const [names, setNames] = useState(namesOf(first.rooms))
  const [leads, setLeads] = useState(leadsOf(first.rooms))
  const [own, setOwn] = useState(ownOf(first.rooms))
  const [together, setTogether] = useState(first.together.map((set) => set.names.join(', ')).join('\n'))
  const [apart, setApart] = useState(first.apart.map((set) => set.names.join(', ')).join('\n'))
  const set = (change: Partial<RoomForm>) => setForm({ ...form, ...change })
  const named = linesOf(names).filter(Boolean)
  const rooms = named.length > 0 ? named.length : Math.min(most + 1, Math.max(0, Math.trunc(Number(count)) || 0))
  const called = Array.from({ length: Math.min(most, rooms) }, (_, at) => named[at] ?? '')
  const wishesOf = (at: number) => own[keyOf(called[at] ?? '', at)] ?? noWishes
  const readIn = useMutation({
    mutationFn: (file: File) => roomFiles.read(sitting, file),
    onSuccess: ({ rooms: read }) => {
      setCount(String(read.length))
      setNames(namesOf(read))
      setLeads(leadsOf(read))
      setOwn(ownOf(read))
    },
  })
  const whole = (): RoomForm => {
    const heads = linesOf(leads)
    return {
      ...form,
      rooms: Array.from({ length: rooms }, (_, at) => ({
        name: named[at] ?? '',
        task: wishesOf(at).task.trim() || null,
        leads: namesIn(heads[at] ?? ''),
        people: namesIn(wishesOf(at).people),
        shows: wishesOf(at).shows.trim() || null,
      })),
      together: setsOf(together),
      apart: setsOf(apart),
    }
  }
  return (
    <div role="group" aria-label={t('rooms.plan')} className="flex flex-col gap-2.5 border border-line bg-linen p-2.5">
      <div className="grid grid-cols-2 items-end gap-2">
        <Field
          label={t('rooms.howMany')}
          type="number"
          min={1}
          max={most}
          value={named.length > 0 ? named.length : count}
          disabled={named.length > 0}
          onChange={(e) => setCount(e.target.value)}
        />
        <Field
          label={t('rooms.minutes')}
          type="number"
          min={1}
          max={600}
          placeholder="—"
          title={t('rooms.minutesHint')}
          value={form.minutes ?? ''}
          onChange={(e) => set({ minutes: e.target.value === '' ? null : Number(e.target.value) })}
        />
      </div>
      {rooms > 0 && people > 0 && (
        <p className="-mt-1 text-[0.812rem] text-ink2">{t('rooms.size', { count: Math.max(1, Math.round(people / rooms)) })}</p>
      )}
      <Words
        label={t('rooms.names')}
        rows={3}
        maxLength={7000}
        value={names}
        onChange={(e) => setNames(e.target.value)}
        placeholder={t('rooms.namesHint')}
      />
      {groups && groups.length > 1 && (
        <Button
          small
          className="self-start"
          onClick={() => {
            setNames(groups.join('\n'))
            set({ spread: 'byGroup' })
          }}
        >
          {t('rooms.fromGroups')}
        </Button>
      )}
      <Select label={t('rooms.spread')} value={form.spread} onChange={(e) => set({ spread: e.target.value as Spread })}>
        {(['mixed', 'byGroup'] as const).map((one) => (
          <option key={one} value={one}>
            {t(`rooms.${one}`)}
          </option>
        ))}
      </Select>
      <Words
        label={t('rooms.task')}
        rows={2}
        maxLength={2000}
        value={form.task ?? ''}
        onChange={(e) => set({ task: e.target.value === '' ? null : e.target.value })}
      />
      <Field
        label={t('rooms.shows')}
        maxLength={120}
        placeholder={t('rooms.showsHint')}
        value={form.shows ?? ''}
        onChange={(e) => set({ shows: e.target.value === '' ? null : e.target.value })}
      />
      {called.length > 0 && (
        <EachRoom
          names={called}
          wishesOf={wishesOf}
          onChange={(at, change) => setOwn({ ...own, [keyOf(called[at] ?? '', at)]: { ...wishesOf(at), ...change } })}
        />
      )}
      <details>
        <summary className="cursor-pointer text-[0.844rem] font-semibold text-felt-ink underline underline-offset-4">
          {t('rooms.more')}
        </summary>
        <div className="mt-2 flex flex-col gap-2.5">
          <p className="text-[0.812rem] text-ink2">{t('rooms.wishHint')}</p>
          <Words label={t('rooms.leads')} rows={2} maxLength={7000} value={leads} onChange={(e) => setLeads(e.target.value)} />
          <Words
            label={t('rooms.together')}
            rows={2}
            maxLength={20_000}
            value={together}
            onChange={(e) => setTogether(e.target.value)}
          />
          <Words label={t('rooms.apart')} rows={2} maxLength={20_000} value={apart} onChange={(e) => setApart(e.target.value)} />
          <Select label={t('rooms.late')} value={form.late} onChange={(e) => set({ late: e.target.value as LateRule })}>
            {lateRules.map((rule) => (
              <option key={rule} value={rule}>
                {t(`rooms.lateRule.${rule}`)}
              </option>
            ))}
          </Select>
          <Field
            label={t('rooms.seed')}
            type="number"
            min={1}
            max={1_000_000}
            title={t('rooms.seedHint')}
            value={form.seed}
            onChange={(e) => set({ seed: Math.min(1_000_000, Math.max(1, Math.trunc(Number(e.target.value)) || 1)) })}
          />
          {(['notAgain', 'mayGoBack', 'mayListen', 'keepsChat'] as const).map((tick) => (
            <Tick
              key={tick}
              label={t(`rooms.${tick}`)}
              checked={form[tick]}
              onChange={(e) => set({ [tick]: e.target.checked })}
            />
          ))}
        </div>
      </details>
      <div className="flex flex-col items-start gap-1.5">
        <FileButton label={t('rooms.import')} accept=".csv,text/csv" onFile={(file) => readIn.mutate(file)} />
        <p className="text-[0.812rem] text-ink2">{t('rooms.importHint')}</p>
        {readIn.data && (
          <p role="status" className="text-[0.844rem] font-medium text-moss">
            {t('rooms.imported', { count: readIn.data.rooms.length })}
          </p>
        )}
        {readIn.data && readIn.data.twice.length > 0 && (
          <p className="border-l-[3px] border-l-brick pl-2 text-[0.844rem] text-brick">
            {t('rooms.twice', { names: listOf(readIn.data.twice.slice(0, 8)) })}
          </p>
        )}
        <Failure of={[readIn.error]} />
      </div>
      <div className="flex flex-wrap gap-2">
        <Button look="primary" disabled={rooms === 0} onClick={() => void onPlan(whole())}>
          {does ?? t('rooms.planIt')}
        </Button>
        {onClose && (
          <Button look="text" onClick={onClose}>
            {t('common.cancel')}
          </Button>
        )}
      </div>
    </div>
  )
}

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { ChevronDown } from 'lucide-react'
import i18next from 'i18next'
import { Collapsible } from 'radix-ui'
import { useState, type FormEvent, type ReactNode } from 'react'
import { useTranslation } from 'react-i18next'
import { useNavigate, useParams } from 'react-router'
import { guestLink, plans, presets, Refused } from '../api/client'
import type { KeptPlan, Plan, PresetRow, SessionKind } from '../contract.generated'
import { dateAndTime } from '../i18n'
import { DoorChoice, OrderChoice } from '../orders/OrderChoice'
import { PresetChoice, PresetKeeping, useChosenPreset } from '../orders/PresetSection'
import { orders, usualOrders } from '../orders/orders'
import { PreparedPolls } from '../polls/PreparedPolls'
import { WishedRooms } from '../rooms/WishedRooms'
import { ItemsEditor } from '../runSheets/ItemsEditor'
import { Button } from '../ui/Button'
import { Choice } from '../ui/Choice'
import { CopyButton } from '../ui/CopyButton'
import { DeskPage } from '../ui/DeskPage'
import { Field, Select, Tick, Words } from '../ui/Field'
import { Loading, NotFetched } from '../ui/States'
import { Failure } from '../ui/Failure'
import { Codes } from './Codes'
import { DocketEditor } from './DocketEditor'
import { joiningText } from './joining'
import { Owners } from './Owners'
import { SessionRecordings } from '../recording/SessionRecordings'
import { Papers } from './Papers'
import { Section } from './Section'
import { RepeatFields } from './RepeatFields'

/** Where a session is planned, and its plan changed. */
export default function PlanPage() {
  const { t } = useTranslation()
  const { id = 'new' } = useParams()
  const isNew = id === 'new'
  const kept = useQuery({ queryKey: ['plan', id], queryFn: () => plans.get(id), enabled: !isNew })
  if (kept.error && !kept.data) return <NotFetched error={kept.error} onRetry={() => void kept.refetch()} />
  if (!isNew && !kept.data) return <Loading />
  return (
    <DeskPage title={isNew ? t('plan.new') : kept.data!.plan.title}>
      {kept.data?.cancelled && <Cancelled kept={kept.data} />}
      <PlanForm key={id} kept={kept.data ?? null} />
      {kept.data && (
        <>
          <DocketEditor kept={kept.data} />
          <Papers id={kept.data.id} />
          <SessionRecordings session={kept.data.id} />
        </>
      )}
    </DeskPage>
  )
}

const zone = Intl.DateTimeFormat().resolvedOptions().timeZone || 'Etc/UTC'
const zones = [...new Set([zone, 'Etc/UTC', ...Intl.supportedValuesOf('timeZone')])]

/** The next full hour of the reader's clock, as the field takes it. */
function nextHour() {
  const at = new Date(Date.now() + 3_600_000)
  at.setMinutes(0, 0, 0)
  const pad = (n: number) => String(n).padStart(2, '0')
  return `${at.getFullYear()}-${pad(at.getMonth() + 1)}-${pad(at.getDate())}T${pad(at.getHours())}:00`
}

const blank = (): Plan => ({
  title: '',
  description: '',
  kind: 'once',
  start: nextHour(),
  minutes: 60,
  zone,
  rule: null,
  except: [],
  earlyEntry: true,
  door: 'listed',
  orders: usualOrders,
  recordsItself: false,
  runSheet: [],
  language: i18next.language,
  doorByName: false,
  polls: [],
  rooms: null,
})

function PlanForm({ kept }: { kept: KeptPlan | null }) {
  const { t } = useTranslation()
  const navigate = useNavigate()
  const queries = useQueryClient()
  const [plan, setPlan] = useState<Plan>(kept?.plan ?? blank)
  const [saved, setSaved] = useState(false)
  const set = (change: Partial<Plan>) => {
    setSaved(false)
    setPlan({ ...plan, ...change })
  }
  const save = useMutation({
    mutationFn: () =>
      plans.save(kept?.id ?? null, {
        ...plan,
        language: i18next.language,
        start: plan.kind === 'standing' ? null : plan.start,
        rule: plan.kind === 'recurring' ? (plan.rule ?? 'FREQ=WEEKLY') : null,
      }),
    onSuccess: async (now) => {
      setSaved(true)
      setPlan(now.plan)
      await queries.invalidateQueries({ queryKey: ['sessions'] })
      if (kept) queries.setQueryData(['plan', kept.id], now)
      else await navigate(`/plan/${now.id}`, { replace: true })
    },
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    save.mutate()
  }
  const failure = save.error instanceof Refused ? save.error : null
  const errorOf = (...reasons: string[]) => (failure && reasons.includes(failure.reason) ? failure.message : undefined)
  const known = ['titleEmpty', 'titleTooLong', 'timeSkipped', 'timeNotUnderstood', 'lengthOutOfRange']
  const kinds: readonly SessionKind[] = ['once', 'recurring', 'standing']
  return (
    <form onSubmit={submit} noValidate className="grid gap-6 lg:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)]">
      <div className="flex flex-col gap-4">
        <Field
          label={t('plan.title')}
          value={plan.title}
          onChange={(e) => set({ title: e.target.value })}
          error={errorOf('titleEmpty', 'titleTooLong')}
        />
        <Words
          label={t('plan.description')}
          maxLength={4000}
          value={plan.description}
          onChange={(e) => set({ description: e.target.value })}
        />
        <Section title={t('plan.when')}>
          <Choice<SessionKind>
            label={t('plan.when')}
            value={plan.kind}
            options={kinds.map((kind) => ({ value: kind, label: t(`plan.kind.${kind}`), hint: t(`plan.kindHint.${kind}`) }))}
            onChange={(kind) => set({ kind, start: plan.start ?? nextHour() })}
          />
          <div className="grid gap-3 sm:grid-cols-2">
            {plan.kind !== 'standing' && (
              <Field
                label={t('plan.start')}
                type="datetime-local"
                value={plan.start ?? ''}
                onChange={(e) => set({ start: e.target.value })}
                error={errorOf('timeSkipped', 'timeNotUnderstood')}
              />
            )}
            <Field
              label={t('plan.minutes')}
              type="number"
              min={1}
              max={1440}
              placeholder={t('plan.openEnded')}
              value={plan.minutes ?? ''}
              onChange={(e) => set({ minutes: e.target.value === '' ? null : Number(e.target.value) })}
              error={errorOf('lengthOutOfRange')}
            />
            <Select label={t('plan.zone')} value={plan.zone} onChange={(e) => set({ zone: e.target.value })}>
              {(zones.includes(plan.zone) ? zones : [plan.zone, ...zones]).map((name) => (
                <option key={name}>{name}</option>
              ))}
            </Select>
          </div>
          {plan.kind === 'recurring' && <RepeatFields plan={plan} onChange={set} />}
          {kept?.timeTwice && <p className="border-l-4 border-brass pl-3 text-[0.875rem]">{t('plan.timeTwice')}</p>}
          {kept && kept.next.length > 0 && (
            <div className="text-[0.875rem]">
              <p className="font-semibold">{t('plan.next', { count: kept.next.length })}</p>
              <ul>
                {kept.next.map((at) => (
                  <li key={at}>{dateAndTime(at)}</li>
                ))}
              </ul>
            </div>
          )}
        </Section>
        <Section title={t('runSheet.title')}>
          <p className="text-[0.844rem] text-ink2">{t('runSheet.planHint')}</p>
          <ItemsEditor items={plan.runSheet ?? []} onChange={(runSheet) => set({ runSheet })} />
        </Section>
        <Section title={t('polls.title')}>
          <PreparedPolls
            untitled
            prepared={plan.polls ?? []}
            onChange={(polls) => {
              set({ polls })
              return Promise.resolve(true)
            }}
          />
        </Section>
        <Section title={t('rooms.title')}>
          <p className="text-[0.844rem] text-ink2">{t('rooms.planHint')}</p>
          <WishedRooms form={plan.rooms ?? null} onChange={(rooms) => set({ rooms })} />
        </Section>
        <div className="flex flex-wrap items-center gap-3">
          <Button look="primary" type="submit" disabled={save.isPending} className="px-6">
            {save.isPending ? t('plan.saving') : t(kept ? 'plan.save' : 'plan.create')}
          </Button>
          <p role="status" className="text-[0.875rem] text-moss">
            {saved && t('plan.saved')}
          </p>
          {failure && !known.includes(failure.reason) && (
            <p role="alert" className="text-[0.875rem] font-medium text-brick">
              {failure.message}
            </p>
          )}
        </div>
        {kept && <Acts kept={kept} />}
      </div>
      <div className="flex flex-col gap-3 self-start border border-line bg-paper p-5">
        <h2 className="font-serif text-[1.188rem] font-semibold">{t('plan.orders')}</h2>
        <div className="border-b border-line">
          <Folded title={t('door.title')} value={t(`door.${plan.door}`)}>
            <DoorChoice value={plan.door} byName={plan.doorByName} onChange={(door, doorByName) => set({ door, doorByName })} />
          </Folded>
          {orders.map((order) => (
            <Folded key={order} title={t(`orders.name.${order}`)} value={t(`orders.${order}.${plan.orders[order]}`)}>
              <OrderChoice
                order={order}
                value={plan.orders[order]}
                onChange={(to) => set({ orders: { ...plan.orders, [order]: to } })}
              />
            </Folded>
          ))}
        </div>
        <Presets plan={plan} onTake={(preset) => set({ door: preset.door, orders: preset.orders })} />
        <div className="border-t border-line pt-2">
          <Tick label={t('plan.earlyEntry')} checked={plan.earlyEntry} onChange={(e) => set({ earlyEntry: e.target.checked })} />
          <Tick
            label={t('plan.recordsItself')}
            checked={plan.recordsItself}
            onChange={(e) => set({ recordsItself: e.target.checked })}
          />
        </div>
        {kept && <Codes kept={kept} />}
        {kept && <Owners id={kept.id} />}
      </div>
    </form>
  )
}

/** What is set, in a line; opens onto what it may be. */
function Folded({ title, value, children }: { title: string; value: string; children: ReactNode }) {
  return (
    <Collapsible.Root className="border-t border-line">
      <Collapsible.Trigger className="group flex min-h-10 w-full items-center gap-3 text-left text-[0.906rem] hover:bg-felt-soft">
        <span className="flex-1 font-semibold">{title}</span>
        <span>{value}</span>
        <ChevronDown aria-hidden size={16} className="text-ink2 group-data-[state=open]:rotate-180" />
      </Collapsible.Trigger>
      <Collapsible.Content className="flex flex-col gap-2 pb-3">{children}</Collapsible.Content>
    </Collapsible.Root>
  )
}

function Presets({ plan, onTake }: { plan: Plan; onTake: (preset: PresetRow) => void }) {
  const { t } = useTranslation()
  const { preset: taken, choose } = useChosenPreset()
  const queries = useQueryClient()
  const remove = useMutation({
    mutationFn: presets.remove,
    onSettled: () => queries.invalidateQueries({ queryKey: ['presets'] }),
  })
  return (
    <div className="flex flex-col gap-2">
      <PresetChoice
        chosen={taken}
        onChoose={(preset) => {
          choose(preset?.id ?? null)
          if (preset) onTake(preset)
        }}
      />
      {taken && (
        <Button small look="text" className="self-start" onClick={() => remove.mutate(taken.id)}>
          {t('plan.removePreset', { name: taken.name })}
        </Button>
      )}
      <Failure of={[remove.error]} />
      <PresetKeeping orders={plan.orders} door={plan.door} />
    </div>
  )
}

function Acts({ kept }: { kept: KeptPlan }) {
  const { t } = useTranslation()
  const navigate = useNavigate()
  const queries = useQueryClient()
  const [asking, setAsking] = useState(false)
  const copy = useMutation({ mutationFn: () => plans.copy(kept.id), onSuccess: (made) => navigate(`/plan/${made.id}`) })
  const cancel = useMutation({
    mutationFn: () => plans.cancel(kept.id),
    onSuccess: async () => {
      setAsking(false)
      await queries.invalidateQueries()
    },
  })
  return (
    <div className="flex flex-wrap items-center gap-2 border-t border-line pt-4">
      <CopyButton text={guestLink(kept.link)} label={t('today.copyLink')} />
      <CopyButton text={joiningText({ ...kept, ...kept.plan, next: kept.next[0] ?? null })} label={t('joining.copy')} />
      <Button onClick={() => copy.mutate()}>{t('plan.copy')}</Button>
      {!kept.cancelled && !asking && (
        <Button look="end" onClick={() => setAsking(true)}>
          {t('plan.cancel')}
        </Button>
      )}
      {asking && (
        <div className="basis-full border-l-4 border-brick pl-3">
          <p className="mb-2 text-[0.875rem]">{t('plan.cancelAsk', { count: kept.invited })}</p>
          <div className="flex gap-2">
            <Button look="end" disabled={cancel.isPending} onClick={() => cancel.mutate()}>
              {t('plan.cancelDo')}
            </Button>
            <Button onClick={() => setAsking(false)}>{t('common.back')}</Button>
          </div>
        </div>
      )}
      <Failure of={[cancel.error, copy.error]} className="basis-full" />
    </div>
  )
}

function Cancelled({ kept }: { kept: KeptPlan }) {
  const { t } = useTranslation()
  const queries = useQueryClient()
  const restore = useMutation({ mutationFn: () => plans.restore(kept.id), onSuccess: () => queries.invalidateQueries() })
  return (
    <div className="mb-5 flex flex-wrap items-center gap-3 border-l-[6px] border-brick bg-brick-soft px-4 py-2.5 text-[0.938rem]">
      <p>{t('plan.isCancelled')}</p>
      <Button small disabled={restore.isPending} onClick={() => restore.mutate()}>
        {t('plan.restore')}
      </Button>
      <Failure of={[restore.error]} />
    </div>
  )
}

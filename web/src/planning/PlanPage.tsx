import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import i18next from 'i18next'
import { useState, type FormEvent } from 'react'
import { useTranslation } from 'react-i18next'
import { useNavigate, useParams } from 'react-router'
import { guestLink, plans, Refused } from '../api/client'
import type { KeptPlan, Plan, SessionKind } from '../contract.generated'
import { dateAndTime } from '../i18n'
import { asides, blanks, keptParts, sections } from '../topics/onPlan'
import { Button } from '../ui/Button'
import { Choice } from '../ui/Choice'
import { CopyButton } from '../ui/CopyButton'
import { DeskPage } from '../ui/DeskPage'
import { Field, Select, Words } from '../ui/Field'
import { Loading, NotFetched } from '../ui/States'
import { Failure } from '../ui/Failure'
import { Codes } from './Codes'
import { joiningText } from './joining'
import { Owners } from './Owners'
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
          {keptParts.map(({ at, Part }) => (
            <Part key={at} kept={kept.data} />
          ))}
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

const blank = (): Plan =>
  Object.assign(
    {
      title: '',
      description: '',
      kind: 'once',
      start: nextHour(),
      minutes: 60,
      zone,
      rule: null,
      except: [],
      language: i18next.language,
    },
    ...blanks,
  ) as Plan

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
        {sections.map(({ at, title, Section: Part }) => (
          <Section key={at} title={title(t)}>
            <Part plan={plan} onChange={set} />
          </Section>
        ))}
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
        {asides.map(({ at, Part }) => (
          <Part key={at} plan={plan} onChange={set} />
        ))}
        {kept && <Codes kept={kept} />}
        {kept && <Owners id={kept.id} />}
      </div>
    </form>
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

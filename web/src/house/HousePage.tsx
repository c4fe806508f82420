import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState, type FormEvent, type ReactNode } from 'react'
import { useTranslation } from 'react-i18next'
import { withProof } from '../accounts/proof'
import { house } from '../api/client'
import type { HousePage as Page } from '../contract.generated'
import { clock, dateAndTime, reader, shortMoment } from '../i18n'
import { useNow } from '../live/time'
import { Button } from '../ui/Button'
import { DeskPage } from '../ui/DeskPage'
import { Field } from '../ui/Field'
import { NotFetched } from '../ui/States'
import { Failure } from '../ui/Failure'

const mega = 1024 * 1024

const number = (value: number, digits = 0) =>
  new Intl.NumberFormat(reader(), { maximumFractionDigits: digits, minimumFractionDigits: digits }).format(value)

/** "1.2 GB", "340 MB". */
const bytes = (value: number) =>
  value >= 1024 * mega ? `${number(value / mega / 1024, 1)} GB` : `${number(value / mega, value < 10 * mega ? 1 : 0)} MB`

/** Bits, as networks are measured. */
const rate = (value: number) => `${number((value * 8) / 1_000_000, 1)} Mbit/s`

const day = 24 * 3_600_000

/** Below this much free the keeper should make room. */
const little = 2 * 1024 * mega

/** How the house is, for the one who keeps it. */
export default function HousePage() {
  const { t } = useTranslation()
  const page = useQuery({ queryKey: ['house'], queryFn: house.state, refetchInterval: 5_000 })
  if (page.error && !page.data) return <NotFetched error={page.error} onRetry={() => void page.refetch()} />
  return (
    <DeskPage title={t('house.title')}>
      <Failure of={[page.error]} className="mb-3" />
      {page.data && (
        <div className="flex flex-col gap-8">
          <Facts page={page.data} />
          <Sittings page={page.data} />
          <Works page={page.data} />
          <Backup page={page.data} />
          <Erase />
        </div>
      )}
    </DeskPage>
  )
}

function Fact({ name, value, hint, bad = false }: { name: string; value: string; hint?: string; bad?: boolean }) {
  return (
    <div className={`border border-l-[5px] border-line bg-paper px-4 py-2.5 ${bad ? 'border-l-brick' : 'border-l-seat'}`}>
      <dt className="text-[0.812rem] text-ink2">{name}</dt>
      <dd className="font-serif text-[1.312rem] leading-tight font-semibold">{value}</dd>
      {hint && <dd className={`text-[0.812rem] ${bad ? 'font-medium text-brick' : 'text-ink2'}`}>{hint}</dd>}
    </div>
  )
}

function Facts({ page }: { page: Page }) {
  const { t } = useTranslation()
  const now = useNow()
  const backupIsOld = page.backupAt === null || now - page.backupAt > 2 * day
  return (
    <dl className="grid grid-cols-[repeat(auto-fill,minmax(15rem,1fr))] gap-1.5">
      <Fact
        name={t('house.sittings')}
        value={number(page.sittings.length)}
        hint={t('house.people', { count: page.people, lines: number(page.lines) })}
      />
      <Fact
        name={t('house.relay')}
        value={rate(page.relayOut)}
        hint={t('house.relayHint', { in: rate(page.relayIn), dropped: number(page.dropped) })}
      />
      <Fact
        name={t('house.load')}
        value={t('house.cores', { count: page.processor, shown: number(page.processor, 2) })}
        hint={t('house.memory', { size: bytes(page.memory) })}
      />
      <Fact
        name={t('house.disk')}
        value={t('house.free', { size: bytes(page.diskFree) })}
        hint={t(page.diskFree < little ? 'house.diskLow' : 'house.data', { size: bytes(page.dataBytes) })}
        bad={page.diskFree < little}
      />
      <Fact
        name={t('house.mail')}
        value={t('house.waits', { count: page.mailWaits })}
        hint={
          !page.mailIsDelivered
            ? t('house.noMailServer')
            : page.mailGivenUp > 0
              ? t('house.givenUp', { count: page.mailGivenUp })
              : page.mailSince !== null
                ? t('house.since', { when: dateAndTime(page.mailSince) })
                : t('house.mailFine')
        }
        bad={page.mailIsDelivered && (page.mailGivenUp > 0 || (page.mailSince !== null && now - page.mailSince > day / 24))}
      />
      <Fact
        name={t('house.backup')}
        value={page.backupAt === null ? t('house.never') : shortMoment(page.backupAt)}
        hint={t(page.backupFailure !== null ? 'house.backupFailed' : backupIsOld ? 'house.backupOld' : 'house.backupFine')}
        bad={page.backupFailure !== null || backupIsOld}
      />
      <Fact
        name={t('house.version')}
        value={page.version.split('+')[0]!}
        hint={t('house.runs', { time: clock(now - page.startedAt) })}
      />
      <Fact
        name={t('house.address')}
        value={page.address?.replace(/^https?:\/\//, '') ?? t('house.noAddress')}
        hint={t(page.address === null ? 'house.noAddressHint' : 'house.addressHint')}
      />
    </dl>
  )
}

function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="flex flex-col items-start gap-3 text-[0.906rem]">
      <h2 className="font-serif text-[1.062rem] font-semibold">{title}</h2>
      {children}
    </section>
  )
}

function Sittings({ page }: { page: Page }) {
  const { t } = useTranslation()
  const now = useNow()
  return (
    <Section title={t('house.live')}>
      {page.sittings.length === 0 ? (
        <p className="text-ink2">{t('house.nothingLive')}</p>
      ) : (
        <ul className="w-full">
          {page.sittings.map((one) => (
            <li key={`${one.title}${one.since}`} className="flex min-h-10 flex-wrap items-center gap-x-4 border-t border-line">
              <span className="flex-1">
                <span className="font-semibold">{one.title}</span> <span className="text-ink2">{one.owner}</span>
              </span>
              <span>{t('house.inside', { count: one.seated, waiting: one.waiting })}</span>
              <span className="text-ink2">{clock(now - one.since)}</span>
            </li>
          ))}
        </ul>
      )}
    </Section>
  )
}

/** What runs beside the requests: what has failed, and how busy it is. */
function Works({ page }: { page: Page }) {
  const { t } = useTranslation()
  const busy = [
    ...(page.busy > 0 ? [t('house.busy', { count: page.busy })] : []),
    ...(page.turnedAway > 0 ? [t('house.turnedAway', { count: page.turnedAway })] : []),
  ]
  return (
    <Section title={t('house.work')}>
      {page.failed.length === 0 ? (
        <p className="text-ink2">{t('house.workFine')}</p>
      ) : (
        <>
          <p className="max-w-2xl text-ink2">{t('house.workLead')}</p>
          <ul className="w-full">
            {page.failed.map((one) => (
              <li key={one.name} className="flex min-h-10 flex-wrap items-center gap-x-4 border-t border-line">
                <span className="flex-1 font-semibold">{t(`house.works.${one.name}`)}</span>
                <span>
                  {t('house.failed', { count: one.failures, when: shortMoment(one.failedAt) })}
                  {one.pauses && `, ${t('house.workPauses')}`}
                </span>
                <span className="font-mono text-[0.812rem] text-ink2">{one.kind}</span>
              </li>
            ))}
          </ul>
        </>
      )}
      {busy.length > 0 && <p>{busy.join('; ')}</p>}
    </Section>
  )
}

function Backup({ page }: { page: Page }) {
  const { t } = useTranslation()
  const queries = useQueryClient()
  const make = useMutation({
    mutationFn: () => withProof(house.backUp),
    onSettled: () => queries.invalidateQueries({ queryKey: ['house'] }),
  })
  return (
    <Section title={t('house.backup')}>
      <p className="max-w-2xl text-ink2">{t(page.makesBackups ? 'house.backupLead' : 'house.backupNone')}</p>
      {page.backupFailure && <p className="max-w-2xl font-medium text-brick">{page.backupFailure}</p>}
      {page.makesBackups && (
        <Button disabled={make.isPending} onClick={() => make.mutate()}>
          {t(make.isPending ? 'house.backingUp' : 'house.backUp')}
        </Button>
      )}
      <Failure of={[make.error]} />
    </Section>
  )
}

/** Somebody asks to be forgotten. */
function Erase() {
  const { t } = useTranslation()
  const [form, setForm] = useState({ name: '', email: '' })
  const wish = { name: form.name || null, email: form.email || null }
  const look = useMutation({ mutationFn: () => withProof(() => house.traces(wish)) })
  const erase = useMutation({ mutationFn: () => withProof(() => house.erase(wish)), onSuccess: () => look.reset() })
  const put = (part: Partial<typeof form>) => {
    setForm({ ...form, ...part })
    look.reset()
    erase.reset()
  }
  const submit = (event: FormEvent) => {
    event.preventDefault()
    look.mutate()
  }
  const found = look.data
  const nothing = found && found.contacts + found.lines + found.messages + found.sittings + found.running === 0
  const said = (key: string, row: typeof found) =>
    row &&
    t(key, {
      contacts: t('house.nContacts', { count: row.contacts }),
      lines: t('house.nLines', { count: row.lines }),
      messages: t('house.nMessages', { count: row.messages }),
      sittings: t('house.nSittings', { count: row.sittings }),
      files: t('house.nFiles', { count: row.files }),
    })
  return (
    <Section title={t('house.erase')}>
      <p className="max-w-2xl text-ink2">{t('house.eraseLead')}</p>
      <form onSubmit={submit} className="flex flex-wrap items-end gap-3" noValidate>
        <div className="w-64 max-w-full">
          <Field
            label={t('signIn.email')}
            type="email"
            autoComplete="off"
            value={form.email}
            onChange={(e) => put({ email: e.target.value })}
          />
        </div>
        <div className="w-64 max-w-full">
          <Field
            label={t('contacts.name')}
            autoComplete="off"
            value={form.name}
            onChange={(e) => put({ name: e.target.value })}
          />
        </div>
        <Button type="submit" disabled={look.isPending}>
          {t('house.look')}
        </Button>
      </form>
      <Failure of={[look.error, erase.error]} />
      {found && (
        <div role="status" className="flex flex-col items-start gap-2 border-l-4 border-brick pl-3">
          <p>{nothing ? t('house.noTraces') : said('house.traces', found)}</p>
          {found.names.length > 0 && <p className="text-ink2">{t('house.names', { names: found.names.join(', ') })}</p>}
          {found.running > 0 && <p>{t('house.stillRunning', { count: found.running })}</p>}
          {!nothing && (
            <Button look="end" disabled={erase.isPending} onClick={() => erase.mutate()}>
              {t(erase.isPending ? 'house.erasing' : 'house.eraseDo')}
            </Button>
          )}
        </div>
      )}
      {erase.data && <p role="status">{said('house.erased', erase.data)}</p>}
    </Section>
  )
}

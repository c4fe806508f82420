import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState, type FormEvent } from 'react'
import { useTranslation } from 'react-i18next'
import { HeirChoice } from '../accounts/HeirChoice'
import { useAct } from '../accounts/AccountPage'
import { withProof } from '../accounts/proof'
import { house } from '../api/client'
import type { HostRow, HostsPage as Page } from '../contract.generated'
import { dateAndTime } from '../i18n'
import { useNow } from '../live/time'
import { Button } from '../ui/Button'
import { Choice } from '../ui/Choice'
import { CopyButton } from '../ui/CopyButton'
import { DeskPage } from '../ui/DeskPage'
import { Field } from '../ui/Field'
import { NotFetched } from '../ui/States'
import { Failure } from '../ui/Failure'

/** Who hosts in this house, for the one who keeps it. */
export default function HostsPage() {
  const { t } = useTranslation()
  const page = useQuery({ queryKey: ['hosts'], queryFn: house.hosts })
  if (page.error && !page.data) return <NotFetched error={page.error} onRetry={() => void page.refetch()} />
  return (
    <DeskPage title={t('hosts.title')}>
      {page.data && (
        <div className="grid content-start gap-x-10 gap-y-8 lg:grid-cols-[minmax(0,1fr)_320px]">
          <div className="flex flex-col gap-7">
            <ul className="flex flex-col gap-1.5">
              {page.data.hosts.map((host) => (
                <Host key={host.id} host={host} mine={page.data.hosts.find((one) => one.me)?.id ?? ''} />
              ))}
            </ul>
            <Invitations page={page.data} />
          </div>
          <Invite page={page.data} />
        </div>
      )}
    </DeskPage>
  )
}

/** @param mine The keeper's own account, which gets what nobody else is named for. */
function Host({ host, mine }: { host: HostRow; mine: string }) {
  const { t } = useTranslation()
  const [removing, setRemoving] = useState(false)
  const [heir, setHeir] = useState<string | null | undefined>(undefined)
  const act = useAct((what: 'suspend' | 'resume' | 'keeper' | 'stepDown' | 'codeOff') => house.change(host.id, what))
  const remove = useAct(() => house.remove(host.id, heir ?? mine))
  const facts = [
    host.demo ? t('hosts.demo') : null,
    t('hosts.sessions', { count: host.sessions }),
    host.hasCode ? t('hosts.code') : null,
    host.seenAt === null ? t('hosts.notSignedIn') : t('signIns.seen', { when: dateAndTime(host.seenAt) }),
  ].filter(Boolean)
  const spine = host.suspended ? 'border-l-brick' : host.keeper ? 'border-l-brass' : 'border-l-seat'
  return (
    <li className={`flex flex-wrap items-center gap-x-5 gap-y-2 border border-l-[6px] border-line bg-paper px-4 py-3 ${spine}`}>
      <div className="min-w-60 flex-1">
        <p className="font-serif text-[1.125rem] leading-tight font-semibold">
          {host.name}
          {(host.keeper || host.suspended || host.me) && (
            <span className="ml-2 font-sans text-[0.844rem]">
              {[host.keeper ? t('hosts.keeper') : null, host.me ? t('hosts.me') : null].filter(Boolean).join(', ')}
              {host.suspended && <span className="text-brick"> {t('hosts.suspended')}</span>}
            </span>
          )}
        </p>
        <p className="text-[0.906rem] break-all">
          {host.email} {!host.emailConfirmed && <span className="text-ink2">{t('account.unconfirmed')}</span>}
        </p>
        <p className="text-[0.844rem] text-ink2">{facts.join(' · ')}</p>
        <Failure of={[act.error]} className="mt-1" />
      </div>
      <div className="flex flex-wrap gap-2">
        {host.keeper ? (
          <Button aria-label={`${t('hosts.stepDown')}: ${host.name}`} onClick={() => act.mutate('stepDown')}>
            {t('hosts.stepDown')}
          </Button>
        ) : (
          !host.suspended && (
            <Button aria-label={`${t('hosts.makeKeeper')}: ${host.name}`} onClick={() => act.mutate('keeper')}>
              {t('hosts.makeKeeper')}
            </Button>
          )
        )}
        {!host.me &&
          (host.suspended ? (
            <Button aria-label={`${t('hosts.resume')}: ${host.name}`} onClick={() => act.mutate('resume')}>
              {t('hosts.resume')}
            </Button>
          ) : (
            <Button aria-label={`${t('hosts.suspend')}: ${host.name}`} onClick={() => act.mutate('suspend')}>
              {t('hosts.suspend')}
            </Button>
          ))}
        {!host.me && host.hasCode && (
          <Button aria-label={`${t('hosts.codeOff')}: ${host.name}`} onClick={() => act.mutate('codeOff')}>
            {t('hosts.codeOff')}
          </Button>
        )}
        {!host.me && (
          <Button look="end" aria-label={`${t('common.remove')}: ${host.name}`} onClick={() => setRemoving(!removing)}>
            {t('common.remove')}
          </Button>
        )}
      </div>
      {removing && (
        <div className="flex basis-full flex-col items-start gap-3 border-l-4 border-brick pl-3 text-[0.906rem]">
          <p>{t(host.sessions > 0 ? 'hosts.removeAsk' : 'hosts.removeAskAlone', { name: host.name })}</p>
          {host.sessions > 0 && <HeirChoice sessions={host.sessions} value={heir} onChange={setHeir} not={host.id} />}
          <Failure of={[remove.error]} />
          <div className="flex gap-2">
            <Button look="end" disabled={remove.isPending || (host.sessions > 0 && !heir)} onClick={() => remove.mutate()}>
              {t('hosts.removeDo')}
            </Button>
            <Button onClick={() => setRemoving(false)}>{t('common.back')}</Button>
          </div>
        </div>
      )}
    </li>
  )
}

function Invite({ page }: { page: Page }) {
  const { t } = useTranslation()
  const queries = useQueryClient()
  const [form, setForm] = useState({ email: '', name: '' })
  const [way, setWay] = useState<'mail' | 'link'>(page.mailIsDelivered ? 'mail' : 'link')
  const invite = useMutation({
    mutationFn: () => withProof(() => house.invite({ ...form, byMail: way === 'mail' })),
    onSuccess: async () => {
      setForm({ email: '', name: '' })
      await queries.invalidateQueries({ queryKey: ['hosts'] })
    },
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    invite.mutate()
  }
  return (
    <form onSubmit={submit} className="flex flex-col gap-3 self-start border border-line bg-paper p-5" noValidate>
      <h2 className="font-serif text-[1.188rem] font-semibold">{t('hosts.invite')}</h2>
      <Field
        label={t('signIn.email')}
        type="email"
        autoComplete="off"
        value={form.email}
        onChange={(e) => setForm({ ...form, email: e.target.value })}
        error={invite.error?.message}
      />
      <Field
        label={t('hosts.name')}
        autoComplete="off"
        value={form.name}
        onChange={(e) => setForm({ ...form, name: e.target.value })}
      />
      <Choice
        label={t('hosts.way')}
        value={way}
        options={[
          { value: 'mail', label: t('hosts.byMail'), hint: t(page.mailIsDelivered ? 'hosts.byMailHint' : 'hosts.byMailKept') },
          { value: 'link', label: t('hosts.byLink'), hint: t('hosts.byLinkHint') },
        ]}
        onChange={setWay}
      />
      <Button look="primary" type="submit" disabled={invite.isPending} className="self-start">
        {t('hosts.inviteDo')}
      </Button>
      {invite.isSuccess && (
        <div role="status" className="flex flex-col items-start gap-2 border-l-4 border-brass pl-3 text-[0.875rem]">
          {invite.data.link ? (
            <>
              <p>{t('hosts.linkOnce')}</p>
              <code className="break-all select-all" data-link>
                {invite.data.link}
              </code>
              <CopyButton text={invite.data.link} label={t('common.copy')} />
            </>
          ) : (
            <p>{t(page.mailIsDelivered ? 'hosts.mailed' : 'hosts.mailKept')}</p>
          )}
        </div>
      )}
    </form>
  )
}

function Invitations({ page }: { page: Page }) {
  const { t } = useTranslation()
  const drop = useAct(house.dropInvitation)
  const now = useNow()
  if (page.invitations.length === 0) return null
  return (
    <section>
      <h2 className="mb-2 font-serif text-[1.062rem] font-semibold">{t('hosts.invitations')}</h2>
      <ul>
        {page.invitations.map((one) => (
          <li key={one.id} className="flex min-h-10 flex-wrap items-center gap-x-3 border-t border-line py-1 text-[0.906rem]">
            <span className="flex-1">
              <span className="font-semibold break-all">{one.email}</span>{' '}
              <span className="text-ink2">
                {one.usedAt !== null
                  ? t('hosts.used', { when: dateAndTime(one.usedAt) })
                  : one.until < now
                    ? t('hosts.expired')
                    : t('hosts.until', { when: dateAndTime(one.until) })}
              </span>
            </span>
            {one.usedAt === null && (
              <Button small look="text" aria-label={`${t('hosts.takeBack')} ${one.email}`} onClick={() => drop.mutate(one.id)}>
                {t('hosts.takeBack')}
              </Button>
            )}
          </li>
        ))}
      </ul>
      <Failure of={[drop.error]} />
    </section>
  )
}

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState, type FormEvent, type ReactNode } from 'react'
import { useTranslation } from 'react-i18next'
import { useNavigate } from 'react-router'
import { account } from '../api/client'
import type { AccountPage as Page } from '../contract.generated'
import { dateAndTime } from '../i18n'
import { Button } from '../ui/Button'
import { DeskPage } from '../ui/DeskPage'
import { Field } from '../ui/Field'
import { NotFetched } from '../ui/States'
import { Failure } from '../ui/Failure'
import { CodeSection } from './CodeSection'
import { HeirChoice } from './HeirChoice'
import { NewPassword } from './NewPassword'
import { canUsePasskeys, makePasskey } from './passkeys'
import { withProof } from './proof'

/** One's own account. */
export default function AccountPage() {
  const { t } = useTranslation()
  const page = useQuery({ queryKey: ['account'], queryFn: account.page })
  if (page.error && !page.data) return <NotFetched error={page.error} onRetry={() => void page.refetch()} />
  return (
    <DeskPage title={t('account.title')}>
      {page.data && (
        <div className="flex max-w-3xl flex-col gap-7">
          <NameSection page={page.data} />
          <AddressSection page={page.data} />
          <PasswordSection page={page.data} />
          <CodeSection page={page.data} />
          <PasskeySection page={page.data} />
          <SignInsSection page={page.data} />
          <DataSection page={page.data} />
        </div>
      )}
    </DeskPage>
  )
}

export function AccountSection({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="grid gap-x-8 gap-y-2 border-t border-line pt-4 md:grid-cols-[11rem_minmax(0,1fr)]">
      <h2 className="font-serif text-[1.062rem] font-semibold">{title}</h2>
      <div className="flex flex-col items-start gap-3 text-[0.906rem]">{children}</div>
    </section>
  )
}

/** Does something with the account, and looks at it anew. */
export function useAct<T, V = void>(what: (value: V) => Promise<T>, then?: (result: T) => void) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (value: V) => withProof(() => what(value)),
    onSuccess: async (result) => {
      then?.(result)
      await Promise.all([
        queries.invalidateQueries({ queryKey: ['account'] }),
        queries.invalidateQueries({ queryKey: ['me'] }),
        queries.invalidateQueries({ queryKey: ['hosts'] }),
      ])
    },
  })
}

function NameSection({ page }: { page: Page }) {
  const { t } = useTranslation()
  const [name, setName] = useState(page.name)
  const keep = useAct(() => account.rename(name))
  const submit = (event: FormEvent) => {
    event.preventDefault()
    keep.mutate()
  }
  return (
    <AccountSection title={t('setUp.name')}>
      <form onSubmit={submit} className="flex w-full flex-wrap items-end gap-2">
        <div className="w-72 max-w-full">
          <Field
            label={t('account.name')}
            autoComplete="name"
            value={name}
            onChange={(e) => setName(e.target.value)}
            error={keep.error?.message}
          />
        </div>
        <Button type="submit" disabled={keep.isPending || name === page.name}>
          {t('common.keep')}
        </Button>
      </form>
    </AccountSection>
  )
}

function AddressSection({ page }: { page: Page }) {
  const { t } = useTranslation()
  const [email, setEmail] = useState<string | null>(null)
  const move = useAct(() => account.moveTo(email ?? ''))
  const again = useAct(account.confirmAgain)
  const submit = (event: FormEvent) => {
    event.preventDefault()
    move.mutate()
  }
  return (
    <AccountSection title={t('signIn.email')}>
      <p>
        <span className="font-semibold break-all">{page.email}</span>{' '}
        <span className={page.emailConfirmed ? 'text-moss' : 'text-ink2'}>
          {t(page.emailConfirmed ? 'account.confirmed' : 'account.unconfirmed')}
        </span>
      </p>
      {!page.emailConfirmed && (
        <Button disabled={again.isPending || again.isSuccess} onClick={() => again.mutate()}>
          {t(again.isSuccess ? 'account.confirmSent' : 'account.confirm')}
        </Button>
      )}
      {move.isSuccess ? (
        <p role="status">{t('account.moveSent', { email })}</p>
      ) : email === null ? (
        <Button onClick={() => setEmail('')}>{t('account.move')}</Button>
      ) : (
        <form onSubmit={submit} className="flex w-full flex-wrap items-end gap-2" noValidate>
          <div className="w-72 max-w-full">
            <Field
              label={t('account.newEmail')}
              type="email"
              value={email}
              onChange={(e) => setEmail(e.target.value)}
              error={move.error?.message}
            />
          </div>
          <Button type="submit" disabled={move.isPending}>
            {t('account.moveDo')}
          </Button>
          <Button look="text" onClick={() => setEmail(null)}>
            {t('common.back')}
          </Button>
        </form>
      )}
      <Failure of={[again.error]} />
    </AccountSection>
  )
}

function PasswordSection({ page }: { page: Page }) {
  const { t } = useTranslation()
  const [password, setPassword] = useState<string | null>(null)
  const keep = useAct(
    () => account.newPassword(password ?? ''),
    () => setPassword(null),
  )
  const submit = (event: FormEvent) => {
    event.preventDefault()
    keep.mutate()
  }
  return (
    <AccountSection title={t('signIn.password')}>
      {keep.isSuccess && password === null && <p role="status">{t('account.passwordKept')}</p>}
      {password === null ? (
        <Button onClick={() => setPassword('')}>{t('account.password')}</Button>
      ) : (
        <form onSubmit={submit} className="flex w-80 max-w-full flex-col gap-2" noValidate>
          <input type="email" autoComplete="username" value={page.email} readOnly hidden />
          <NewPassword value={password} onChange={setPassword} name={page.name} email={page.email} error={keep.error?.message} />
          <p className="text-[0.844rem] text-ink2">{t('account.passwordHint')}</p>
          <div className="flex gap-2">
            <Button look="primary" type="submit" disabled={keep.isPending}>
              {t('common.keep')}
            </Button>
            <Button onClick={() => setPassword(null)}>{t('common.back')}</Button>
          </div>
        </form>
      )}
    </AccountSection>
  )
}

function PasskeySection({ page }: { page: Page }) {
  const { t } = useTranslation()
  const [name, setName] = useState('')
  const make = useAct(
    async () => account.keepPasskey(await makePasskey(await account.newPasskey()), name),
    () => setName(''),
  )
  const drop = useAct(account.dropPasskey)
  const submit = (event: FormEvent) => {
    event.preventDefault()
    make.mutate()
  }
  return (
    <AccountSection title={t('passkeys.title')}>
      <p className="text-ink2">{t('passkeys.lead')}</p>
      {page.passkeys.length > 0 && (
        <ul className="w-full">
          {page.passkeys.map((one) => (
            <li key={one.id} className="flex min-h-10 items-center gap-3 border-t border-line">
              <span className="flex-1">
                <span className="font-semibold">{one.name || t('passkeys.unnamed')}</span>{' '}
                <span className="text-ink2">{dateAndTime(one.madeAt)}</span>
              </span>
              <Button
                small
                look="text"
                aria-label={`${t('common.remove')} ${one.name || t('passkeys.unnamed')}`}
                onClick={() => drop.mutate(one.id)}
              >
                {t('common.remove')}
              </Button>
            </li>
          ))}
        </ul>
      )}
      {canUsePasskeys() ? (
        <form onSubmit={submit} className="flex w-full flex-wrap items-end gap-2">
          <div className="w-72 max-w-full">
            <Field
              label={t('passkeys.name')}
              placeholder={t('passkeys.example')}
              maxLength={60}
              value={name}
              onChange={(e) => setName(e.target.value)}
              error={make.error?.message}
            />
          </div>
          <Button type="submit" disabled={make.isPending}>
            {t('passkeys.make')}
          </Button>
        </form>
      ) : (
        <p>{t('passkeys.none')}</p>
      )}
      <Failure of={[drop.error]} />
    </AccountSection>
  )
}

function SignInsSection({ page }: { page: Page }) {
  const { t } = useTranslation()
  const end = useAct(account.endSignIn)
  const endOthers = useAct(account.endOthers)
  return (
    <AccountSection title={t('signIns.title')}>
      <ul className="w-full">
        {page.signIns.map((one) => (
          <li key={one.id} className="flex min-h-10 flex-wrap items-center gap-x-3 border-t border-line py-1">
            <span className="flex-1">
              <span className="font-semibold">{one.device ?? t('signIns.unknown')}</span>{' '}
              <span className="text-ink2">
                {one.address} · {t('signIns.seen', { when: dateAndTime(one.seenAt) })}
              </span>
            </span>
            {one.here ? (
              <span className="font-semibold text-moss">{t('signIns.here')}</span>
            ) : (
              <Button
                small
                look="text"
                aria-label={`${t('signIns.end')} ${one.device ?? t('signIns.unknown')}`}
                onClick={() => end.mutate(one.id)}
              >
                {t('signIns.end')}
              </Button>
            )}
          </li>
        ))}
      </ul>
      {page.signIns.length > 1 && (
        <Button disabled={endOthers.isPending} onClick={() => endOthers.mutate()}>
          {t('signIns.endOthers')}
        </Button>
      )}
      <Failure of={[end.error, endOthers.error]} />
    </AccountSection>
  )
}

function DataSection({ page }: { page: Page }) {
  const { t } = useTranslation()
  const navigate = useNavigate()
  const queries = useQueryClient()
  const [asking, setAsking] = useState(false)
  const [heir, setHeir] = useState<string | null | undefined>(undefined)
  const fetchAll = useMutation({ mutationFn: () => withProof(account.archive) })
  const close = useMutation({
    mutationFn: () => withProof(() => account.close(heir ?? null)),
    onSuccess: () => {
      queries.clear()
      void navigate('/sign-in', { state: { done: 'closed' } })
    },
  })
  return (
    <AccountSection title={t('account.data')}>
      <p className="text-ink2">{t('account.archiveLead')}</p>
      <Button disabled={fetchAll.isPending} onClick={() => fetchAll.mutate()}>
        {t(fetchAll.isPending ? 'account.archiveBusy' : 'account.archive')}
      </Button>
      <Failure of={[fetchAll.error]} />
      {asking ? (
        <div className="flex w-full flex-col items-start gap-3 border-l-4 border-brick pl-3">
          <p>{t('account.closeAsk')}</p>
          {page.sessions > 0 && <HeirChoice sessions={page.sessions} value={heir} onChange={setHeir} mayDelete />}
          <Failure of={[close.error]} />
          <div className="flex flex-wrap gap-2">
            <Button
              look="end"
              disabled={close.isPending || (page.sessions > 0 && heir === undefined)}
              onClick={() => close.mutate()}
            >
              {t('account.closeDo')}
            </Button>
            <Button onClick={() => setAsking(false)}>{t('common.back')}</Button>
          </div>
        </div>
      ) : (
        <Button look="end" onClick={() => setAsking(true)}>
          {t('account.close')}
        </Button>
      )}
    </AccountSection>
  )
}

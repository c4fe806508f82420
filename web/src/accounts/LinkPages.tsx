import { useMutation, useQuery } from '@tanstack/react-query'
import i18next from 'i18next'
import { useEffect, useState, type FormEvent } from 'react'
import { useTranslation } from 'react-i18next'
import { Link, useLocation, useNavigate } from 'react-router'
import { account } from '../api/client'
import { Button } from '../ui/Button'
import { Field } from '../ui/Field'
import { Failed, Loading } from '../ui/States'
import { Failure } from '../ui/Failure'
import { Refused } from '../api/client'
import { Placard } from '../ui/Placard'
import { Entrance } from './Entrance'
import { NewPassword } from './NewPassword'
import { errorAt } from './errorAt'

/** What a link of a message carries behind the number sign, where no server and no proxy writes it down. */
function useSecret() {
  const { hash } = useLocation()
  const [secret] = useState(() => hash.slice(1).split('.').map(decodeURIComponent))
  // Neither does it stay in the address, where somebody might look over the shoulder.
  useEffect(() => {
    if (location.hash) history.replaceState(history.state, '', location.pathname)
  }, [])
  return secret
}

const toSignIn = 'text-[0.875rem] underline underline-offset-4'

/** Where somebody asks for a new password. */
export function ForgotPage() {
  const { t } = useTranslation()
  const { state } = useLocation()
  const [email, setEmail] = useState((state as { email?: string } | null)?.email ?? '')
  const ask = useMutation({ mutationFn: () => account.forgot(email) })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    ask.mutate()
  }
  return (
    <Entrance title={t('forgot.title')}>
      {ask.isSuccess ? (
        <div role="status" className="flex flex-col gap-3 text-[0.938rem]">
          <p>{t('forgot.sent', { email: email.trim() })}</p>
          <p className="text-ink2">{t('forgot.sentHint')}</p>
        </div>
      ) : (
        <form onSubmit={submit} className="flex flex-col gap-4" noValidate>
          <p className="text-[0.906rem]">{t('forgot.lead')}</p>
          <Field
            label={t('signIn.email')}
            type="email"
            autoComplete="username"
            value={email}
            onChange={(e) => setEmail(e.target.value)}
            error={ask.error?.message}
          />
          <Button look="primary" type="submit" disabled={ask.isPending} className="self-start px-6">
            {t('forgot.submit')}
          </Button>
        </form>
      )}
      <Link to="/sign-in" className={toSignIn}>
        {t('forgot.back')}
      </Link>
    </Entrance>
  )
}

/** Where the link of that message leads. */
export function ResetPage() {
  const { t } = useTranslation()
  const navigate = useNavigate()
  const [id = '', token = ''] = useSecret()
  const [password, setPassword] = useState('')
  const reset = useMutation({
    mutationFn: () => account.reset({ account: id, token, password }),
    onSuccess: () => navigate('/sign-in', { replace: true, state: { done: 'reset' } }),
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    reset.mutate()
  }
  if (!token || (reset.error instanceof Refused && reset.error.reason === 'linkGone')) return <LinkGone />
  return (
    <Entrance title={t('reset.title')}>
      <form onSubmit={submit} className="flex flex-col gap-4" noValidate>
        <p className="text-[0.906rem]">{t('reset.lead')}</p>
        <NewPassword value={password} onChange={setPassword} error={reset.error?.message} />
        <Button look="primary" type="submit" disabled={reset.isPending} className="self-start px-6">
          {t('reset.submit')}
        </Button>
      </form>
    </Entrance>
  )
}

function LinkGone() {
  const { t } = useTranslation()
  return (
    <Placard title={t('reason.linkGone')} spine="brick">
      <p>{t('reset.goneHint')}</p>
      <p>
        <Link to="/forgot" className="font-semibold underline underline-offset-4">
          {t('forgot.title')}
        </Link>
      </p>
    </Placard>
  )
}

/** Where the link in a message about an address leads. It asks for a click, since mail programs open links by themselves. */
export function ConfirmPage() {
  const { t } = useTranslation()
  const [id = '', token = '', ...rest] = useSecret()
  const email = rest.length > 0 ? rest.join('.') : null
  const confirm = useMutation({ mutationFn: () => account.confirm({ account: id, token, email }) })
  if (!token || (confirm.error instanceof Refused && confirm.error.reason === 'linkGone'))
    return (
      <Placard title={t('reason.linkGone')} spine="brick">
        <p>{t('confirm.goneHint')}</p>
      </Placard>
    )
  return (
    <Placard title={t(confirm.isSuccess ? 'confirm.done' : 'confirm.title')} spine={confirm.isSuccess ? 'moss' : 'felt'}>
      {confirm.isSuccess ? (
        <p>
          <Link to="/" className="font-semibold underline underline-offset-4">
            {t('farewell.today')}
          </Link>
        </p>
      ) : (
        <>
          <p>{email ? t('confirm.leadNew', { email }) : t('confirm.lead')}</p>
          <Failure of={[confirm.error]} />
          <div>
            <Button look="primary" disabled={confirm.isPending} onClick={() => confirm.mutate()}>
              {t('confirm.submit')}
            </Button>
          </div>
        </>
      )}
    </Placard>
  )
}

/** Where somebody who was invited to host makes an account. */
export function JoinPage() {
  const { t } = useTranslation()
  const navigate = useNavigate()
  const [token = ''] = useSecret()
  const look = useQuery({ queryKey: ['join', token], queryFn: () => account.invitation(token), enabled: token !== '' })
  const [name, setName] = useState<string | null>(null)
  const [password, setPassword] = useState('')
  const chosen = name ?? look.data?.name ?? ''
  const join = useMutation({
    mutationFn: () => account.join({ token, name: chosen, password, language: i18next.language }),
    onSuccess: () => navigate('/', { replace: true }),
  })
  const gone = [look.error, join.error].some((error) => error instanceof Refused && error.reason === 'invitationGone')
  if (token === '' || gone)
    return (
      <Placard title={t('reason.invitationGone')} spine="brick">
        <p>{t('join.goneHint')}</p>
        <p>
          <Link to="/sign-in" className="font-semibold underline underline-offset-4">
            {t('signIn.title')}
          </Link>
        </p>
      </Placard>
    )
  if (look.error) return <Failed sentence={look.error.message} onRetry={() => void look.refetch()} />
  if (!look.data) return <Loading />
  const at = errorAt(join.error, { name: ['nameEmpty', 'nameTooLong', 'nameHidden', 'nameMarks'] })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    join.mutate()
  }
  return (
    <Entrance title={t('join.title')}>
      <p className="text-[0.906rem]">{t('join.lead', { email: look.data.email })}</p>
      <form onSubmit={submit} className="flex flex-col gap-4" noValidate>
        <Field
          label={t('setUp.name')}
          autoComplete="name"
          value={chosen}
          onChange={(e) => setName(e.target.value)}
          error={at.name}
        />
        <input type="email" autoComplete="username" value={look.data.email} readOnly hidden />
        <NewPassword value={password} onChange={setPassword} name={chosen} email={look.data.email} error={at.rest} />
        <Button look="primary" type="submit" disabled={join.isPending} className="self-start px-6">
          {t('join.submit')}
        </Button>
      </form>
    </Entrance>
  )
}

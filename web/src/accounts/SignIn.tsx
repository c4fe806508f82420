import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState, type FormEvent } from 'react'
import { useTranslation } from 'react-i18next'
import { Link, Navigate, useLocation, useNavigate } from 'react-router'
import { account } from '../api/client'
import { Button } from '../ui/Button'
import { Field } from '../ui/Field'
import { Failure } from '../ui/Failure'
import { Entrance } from './Entrance'
import { canUsePasskeys, showPasskey } from './passkeys'

/** After signing in: to where one wanted to go, with nothing of what was answered before. */
export function useGoIn() {
  const navigate = useNavigate()
  const queries = useQueryClient()
  const { state } = useLocation()
  const back = (state as { back?: string } | null)?.back ?? '/'
  return async () => {
    queries.clear()
    await navigate(back, { replace: true })
  }
}

export default function SignIn() {
  const { t } = useTranslation()
  const goIn = useGoIn()
  const { state } = useLocation()
  const [email, setEmail] = useState('')
  const [password, setPassword] = useState('')
  const [needsCode, setNeedsCode] = useState(false)
  const me = useQuery({ queryKey: ['me'], queryFn: account.me })
  const signIn = useMutation({
    mutationFn: () => account.signIn(email, password),
    onSuccess: ({ codeNeeded }) => (codeNeeded ? setNeedsCode(true) : goIn()),
  })
  const passkey = useMutation({
    mutationFn: async () => account.signInWithPasskey(await showPasskey(await account.passkeyQuestion())),
    onSuccess: goIn,
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    signIn.mutate()
  }
  if (me.data?.setUp) return <Navigate to="/set-up" replace />
  if (needsCode) return <SecondStep onBack={() => (setNeedsCode(false), setPassword(''), signIn.reset())} />
  const done = (state as { done?: string } | null)?.done
  return (
    <Entrance title={t('signIn.title')}>
      {me.data?.openDemo && <p className="border-l-4 border-brick pl-3 text-[0.906rem]">{t('demo.open')}</p>}
      {done && (
        <p role="status" className="border-l-4 border-moss pl-3 text-[0.906rem]">
          {t(`signIn.done.${done}`)}
        </p>
      )}
      <form onSubmit={submit} className="flex flex-col gap-4" noValidate>
        <Field
          label={t('signIn.email')}
          type="email"
          autoComplete="username"
          value={email}
          onChange={(e) => setEmail(e.target.value)}
        />
        <Field
          label={t('signIn.password')}
          type="password"
          autoComplete="current-password"
          value={password}
          onChange={(e) => setPassword(e.target.value)}
          error={signIn.error?.message}
        />
        <p className="flex flex-wrap items-center gap-x-5 gap-y-2">
          <Button look="primary" type="submit" disabled={signIn.isPending} className="px-6">
            {signIn.isPending ? t('signIn.busy') : t('signIn.submit')}
          </Button>
          <Link to="/forgot" state={{ email }} className="text-[0.875rem] underline underline-offset-4">
            {t('forgot.link')}
          </Link>
        </p>
      </form>
      {canUsePasskeys() && (
        <div className="border-t border-line pt-4">
          <Button disabled={passkey.isPending} onClick={() => passkey.mutate()}>
            {t('signIn.passkey')}
          </Button>
          <Failure of={[passkey.error]} className="mt-2" />
        </div>
      )}
      <p className="text-[0.875rem] text-ink2">{t('signIn.lead')}</p>
    </Entrance>
  )
}

function SecondStep({ onBack }: { onBack: () => void }) {
  const { t } = useTranslation()
  const goIn = useGoIn()
  const [code, setCode] = useState('')
  const [recovery, setRecovery] = useState(false)
  const send = useMutation({ mutationFn: () => account.secondStep(code, recovery), onSuccess: goIn })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    send.mutate()
  }
  return (
    <Entrance title={t('second.title')}>
      <form onSubmit={submit} className="flex flex-col gap-4" noValidate>
        <p className="text-[0.906rem]">{t(recovery ? 'second.recoveryLead' : 'second.lead')}</p>
        <Field
          key={String(recovery)}
          label={t(recovery ? 'second.recoveryCode' : 'second.code')}
          inputMode={recovery ? 'text' : 'numeric'}
          autoComplete="one-time-code"
          // The step before has just led here, for this field alone.
          // eslint-disable-next-line jsx-a11y/no-autofocus
          autoFocus
          value={code}
          onChange={(e) => setCode(e.target.value)}
          error={send.error?.message}
        />
        <Button look="primary" type="submit" disabled={send.isPending} className="self-start px-6">
          {send.isPending ? t('signIn.busy') : t('signIn.submit')}
        </Button>
      </form>
      <p className="flex flex-wrap gap-x-5 gap-y-2 text-[0.875rem]">
        <button className="underline underline-offset-4" onClick={() => (setRecovery(!recovery), setCode(''), send.reset())}>
          {t(recovery ? 'second.useCode' : 'second.useRecovery')}
        </button>
        <button className="underline underline-offset-4" onClick={onBack}>
          {t('second.back')}
        </button>
      </p>
    </Entrance>
  )
}

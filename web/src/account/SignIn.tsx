import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState, type FormEvent } from 'react'
import { useTranslation } from 'react-i18next'
import { useLocation, useNavigate } from 'react-router'
import { account } from '../api/client'
import { LanguageChoice } from '../settings/LanguageChoice'
import { Button } from '../ui/Button'
import { Field } from '../ui/Field'

export default function SignIn() {
  const { t } = useTranslation()
  const navigate = useNavigate()
  const { state } = useLocation()
  const back = (state as { back?: string } | null)?.back ?? '/'
  const queries = useQueryClient()
  const [email, setEmail] = useState('')
  const [password, setPassword] = useState('')
  const signIn = useMutation({
    mutationFn: () => account.signIn(email, password),
    onSuccess: async () => {
      // What was answered before is not for who signs in now.
      queries.clear()
      await navigate(back, { replace: true })
    },
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    signIn.mutate()
  }
  return (
    <main className="grid min-h-dvh grid-cols-1 md:grid-cols-[minmax(0,1fr)_minmax(380px,1fr)]">
      <div className="flex flex-col justify-end bg-felt p-8 text-on-felt max-md:py-6">
        <p className="font-serif text-[2.5rem] leading-none font-semibold">{t('product')}</p>
        <p className="mt-3 max-w-80 text-[1.062rem] text-on-felt2">{t('tagline')}</p>
        <div aria-hidden className="mt-10 flex max-w-96 flex-col gap-1.5 max-md:hidden">
          {['border-l-brass', 'border-l-brass', 'border-l-seat', 'border-l-seat', 'border-l-seat'].map((spine, i) => (
            <span key={i} className={`h-9 border-l-[5px] bg-felt-line ${spine}`} style={{ width: `${100 - i * 9}%` }} />
          ))}
        </div>
      </div>
      <form onSubmit={submit} className="m-auto flex w-full max-w-96 flex-col gap-4 p-8" noValidate>
        <p className="self-end">
          <LanguageChoice />
        </p>
        <h1 className="font-serif text-[1.625rem] font-semibold">{t('signIn.title')}</h1>
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
        <Button look="primary" type="submit" disabled={signIn.isPending} className="self-start px-6">
          {signIn.isPending ? t('signIn.busy') : t('signIn.submit')}
        </Button>
        <p className="text-[0.875rem] text-ink2">{t('signIn.lead')}</p>
      </form>
    </main>
  )
}

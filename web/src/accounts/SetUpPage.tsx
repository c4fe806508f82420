import { useMutation, useQuery } from '@tanstack/react-query'
import i18next from 'i18next'
import { useState, type FormEvent } from 'react'
import { useTranslation } from 'react-i18next'
import { Navigate } from 'react-router'
import { account } from '../api/client'
import { Button } from '../ui/Button'
import { Field } from '../ui/Field'
import { Failed, Loading } from '../ui/States'
import { Entrance } from './Entrance'
import { NewPassword } from './NewPassword'
import { useGoIn } from './SignIn'
import { errorAt } from './errorAt'

/** The first page of a house that nobody keeps yet. */
export default function SetUpPage() {
  const { t } = useTranslation()
  const goIn = useGoIn()
  const me = useQuery({ queryKey: ['me'], queryFn: account.me })
  const [form, setForm] = useState({ code: '', name: '', email: '', password: '' })
  const put = (part: Partial<typeof form>) => setForm({ ...form, ...part })
  const make = useMutation({ mutationFn: () => account.setUp({ ...form, language: i18next.language }), onSuccess: goIn })
  const at = errorAt(make.error, {
    code: ['setUpCodeWrong', 'passcodeWait'],
    name: ['nameEmpty', 'nameTooLong', 'nameHidden', 'nameMarks'],
    email: ['emailNotUnderstood', 'addressTaken'],
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    make.mutate()
  }
  if (me.error && !me.data) return <Failed sentence={me.error.message} onRetry={() => void me.refetch()} />
  if (!me.data) return <Loading />
  if (!me.data.setUp && !make.isPending) return <Navigate to="/" replace />
  return (
    <Entrance title={t('setUp.title')}>
      <p className="text-[0.906rem]">{t('setUp.lead')}</p>
      <form onSubmit={submit} className="flex flex-col gap-4" noValidate>
        <div>
          <Field
            label={t('setUp.code')}
            autoComplete="off"
            spellCheck={false}
            value={form.code}
            onChange={(e) => put({ code: e.target.value })}
            error={at.code}
          />
          {!at.code && <p className="mt-1 text-[0.812rem] text-ink2">{t('setUp.codeHint')}</p>}
        </div>
        <Field
          label={t('setUp.name')}
          autoComplete="name"
          value={form.name}
          onChange={(e) => put({ name: e.target.value })}
          error={at.name}
        />
        <Field
          label={t('signIn.email')}
          type="email"
          autoComplete="username"
          value={form.email}
          onChange={(e) => put({ email: e.target.value })}
          error={at.email}
        />
        <NewPassword
          value={form.password}
          onChange={(password) => put({ password })}
          name={form.name}
          email={form.email}
          error={at.rest}
        />
        <Button look="primary" type="submit" disabled={make.isPending} className="self-start px-6">
          {t(make.isPending ? 'setUp.busy' : 'setUp.submit')}
        </Button>
      </form>
    </Entrance>
  )
}

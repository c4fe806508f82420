import { clsx } from 'clsx'
import { useMutation } from '@tanstack/react-query'
import { Dialog } from 'radix-ui'
import { useState, type FormEvent } from 'react'
import { useTranslation } from 'react-i18next'
import { create } from 'zustand'
import { account, Refused } from '../api/client'
import { t } from '../i18n'
import { Button } from '../ui/Button'
import { Field } from '../ui/Field'

/** Who waits for the password to be shown again. */
const useAsked = create<{ answer: ((proved: boolean) => void) | null }>(() => ({ answer: null }))

/** Does what needs a fresh proof; where the server asks for one, the reader is asked, and it is done then. */
export async function withProof<T>(what: () => Promise<T>): Promise<T> {
  try {
    return await what()
  } catch (error) {
    if (!(error instanceof Refused) || error.reason !== 'proofNeeded') throw error
    const proved = await new Promise<boolean>((answer) => useAsked.setState({ answer }))
    useAsked.setState({ answer: null })
    if (!proved) throw new Refused('proofNeeded', t('reason.proofNeeded'))
    return what()
  }
}

/** Asks for the password again, over the page. */
export function ProofDialog() {
  const { t } = useTranslation()
  const answer = useAsked((state) => state.answer)
  return (
    <Dialog.Root open={answer !== null} onOpenChange={(open) => !open && answer?.(false)}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-[rgb(0_0_0/0.6)]" />
        <Dialog.Content
          aria-describedby={undefined}
          className={clsx(
            'fixed top-1/2 left-1/2 z-50 w-[26rem] max-w-[calc(100vw-24px)] -translate-1/2 border border-l-8',
            'border-line border-l-felt bg-paper p-6 text-ink',
          )}
        >
          <Dialog.Title className="mb-3 font-serif text-[1.25rem] font-semibold">{t('proof.title')}</Dialog.Title>
          {answer && <Form onDone={() => answer(true)} />}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}

function Form({ onDone }: { onDone: () => void }) {
  const { t } = useTranslation()
  const [password, setPassword] = useState('')
  const prove = useMutation({ mutationFn: () => account.prove(password), onSuccess: onDone })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    prove.mutate()
  }
  return (
    <form onSubmit={submit} className="flex flex-col gap-4" noValidate>
      <p className="text-[0.906rem]">{t('proof.lead')}</p>
      <Field
        label={t('signIn.password')}
        type="password"
        autoComplete="current-password"
        value={password}
        onChange={(e) => setPassword(e.target.value)}
        error={prove.error?.message}
      />
      <div className="flex gap-2">
        <Button look="primary" type="submit" disabled={prove.isPending}>
          {t('proof.submit')}
        </Button>
        <Dialog.Close asChild>
          <Button>{t('common.back')}</Button>
        </Dialog.Close>
      </div>
    </form>
  )
}

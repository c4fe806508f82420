import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import { guestLink, plans } from '../api/client'
import type { KeptPlan } from '../contract.generated'
import { Button } from '../ui/Button'
import { CopyButton } from '../ui/CopyButton'
import { Failure } from '../ui/Failure'
import { Section } from './Section'

/** Passcode and host key: shown once when they are made, and never again. */
export function Codes({ kept }: { kept: KeptPlan }) {
  const { t } = useTranslation()
  return (
    <Section title={t('plan.codes')}>
      <GuestLink kept={kept} />
      <Code id={kept.id} kind="passcode" has={kept.hasPasscode} hint={t('plan.passcodeHint')} />
      <Code id={kept.id} kind="host-key" has={kept.hasHostKey} hint={t('plan.hostKeyHint')} />
    </Section>
  )
}

/** The link can be made anew when the old one has got around. */
function GuestLink({ kept }: { kept: KeptPlan }) {
  const { t } = useTranslation()
  const queries = useQueryClient()
  const [asking, setAsking] = useState(false)
  const renew = useMutation({
    mutationFn: () => plans.newLink(kept.id),
    onSuccess: (now) => (setAsking(false), queries.setQueryData(['plan', kept.id], now)),
  })
  return (
    <div className="flex flex-col gap-1.5 text-[0.875rem]">
      <p>
        <span className="font-semibold">{t('plan.guestLink')}</span>{' '}
        <span className="break-all text-ink2">{guestLink(kept.link)}</span>
      </p>
      <Failure of={[renew.error]} />
      {asking && <p className="border-l-4 border-brick pl-3">{t('plan.linkAsk')}</p>}
      <div className="flex gap-2">
        <Button small look={asking ? 'end' : 'plain'} onClick={() => (asking ? renew.mutate() : setAsking(true))}>
          {t(asking ? 'plan.linkDo' : 'plan.linkRenew')}
        </Button>
        {asking && (
          <Button small onClick={() => setAsking(false)}>
            {t('common.back')}
          </Button>
        )}
      </div>
    </div>
  )
}

function Code({ id, kind, has, hint }: { id: string; kind: 'passcode' | 'host-key'; has: boolean; hint: string }) {
  const { t } = useTranslation()
  const queries = useQueryClient()
  const [code, setCode] = useState<string | null>(null)
  const renew = () => queries.invalidateQueries({ queryKey: ['plan', id] })
  const make = useMutation({ mutationFn: () => plans.newCode(id, kind), onSuccess: (made) => (setCode(made.code), renew()) })
  const clear = useMutation({ mutationFn: () => plans.clearCode(id, kind), onSuccess: () => (setCode(null), renew()) })
  const name = t(kind === 'passcode' ? 'plan.passcode' : 'plan.hostKey')
  return (
    <div className="flex flex-col gap-1.5 text-[0.875rem]">
      <p>
        <span className="font-semibold first-letter:uppercase inline-block">{name}:</span>{' '}
        {t(has ? 'plan.codeSet' : 'plan.codeNone')} <span className="text-ink2">{hint}</span>
      </p>
      {code && (
        <p role="status" className="flex flex-wrap items-center gap-2 border-l-4 border-brass pl-3">
          <code className="text-[1.125rem] font-semibold tracking-wider select-all" data-code={kind}>
            {code}
          </code>
          <CopyButton text={code} label={t('common.copy')} />
          <span className="basis-full text-[0.812rem] text-ink2">{t('plan.codeOnce')}</span>
        </p>
      )}
      <Failure of={[make.error, clear.error]} />
      <div className="flex gap-2">
        <Button small onClick={() => make.mutate()}>
          {t(has ? 'plan.codeRenew' : 'plan.codeMake', { name })}
        </Button>
        {has && (
          <Button small look="text" onClick={() => clear.mutate()}>
            {t('plan.codeClear', { name })}
          </Button>
        )}
      </div>
    </div>
  )
}

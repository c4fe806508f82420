import qrcode from 'qrcode-generator'
import { useMemo, useState, type FormEvent } from 'react'
import { useTranslation } from 'react-i18next'
import { account } from '../api/client'
import type { AccountPage, CodeSecret } from '../contract.generated'
import { Button } from '../ui/Button'
import { CopyButton } from '../ui/CopyButton'
import { Field } from '../ui/Field'
import { Failure } from '../ui/Failure'
import { AccountSection, useAct } from './AccountPage'

/** The second step of signing in: a code of another device (RFC 6238). */
export function CodeSection({ page }: { page: AccountPage }) {
  const { t } = useTranslation()
  const [secret, setSecret] = useState<CodeSecret | null>(null)
  const [recovery, setRecovery] = useState<readonly string[] | null>(null)
  const begin = useAct(account.beginCode, setSecret)
  const renew = useAct(account.newRecoveryCodes, ({ codes }) => setRecovery(codes))
  const off = useAct(account.codeOff, () => setRecovery(null))
  return (
    <AccountSection title={t('code.title')}>
      <p className="text-ink2">{t('code.lead')}</p>
      {page.hasCode ? (
        <>
          <p>
            <span className="font-semibold text-moss">{t('code.on')}</span> {t('code.left', { count: page.recoveryCodes })}
          </p>
          {recovery && <Recovery codes={recovery} />}
          <div className="flex flex-wrap gap-2">
            <Button disabled={renew.isPending} onClick={() => renew.mutate()}>
              {t('code.renew')}
            </Button>
            <Button look="end" disabled={off.isPending} onClick={() => off.mutate()}>
              {t('code.turnOff')}
            </Button>
          </div>
        </>
      ) : secret ? (
        <Confirm
          secret={secret}
          onDone={(codes) => {
            setSecret(null)
            setRecovery(codes)
          }}
          onBack={() => setSecret(null)}
        />
      ) : (
        <Button disabled={begin.isPending} onClick={() => begin.mutate()}>
          {t('code.turnOn')}
        </Button>
      )}
      <Failure of={[begin.error, renew.error, off.error]} />
    </AccountSection>
  )
}

function Confirm({
  secret,
  onDone,
  onBack,
}: {
  secret: CodeSecret
  onDone: (codes: readonly string[]) => void
  onBack: () => void
}) {
  const { t } = useTranslation()
  const [code, setCode] = useState('')
  const confirm = useAct(
    () => account.confirmCode(code),
    ({ codes }) => onDone(codes),
  )
  const submit = (event: FormEvent) => {
    event.preventDefault()
    confirm.mutate()
  }
  return (
    <form onSubmit={submit} className="flex w-full flex-wrap items-start gap-6" noValidate>
      <Picture text={secret.address} />
      <div className="flex min-w-60 flex-1 flex-col items-start gap-3">
        <p>{t('code.scan')}</p>
        <p>
          <span className="text-ink2">{t('code.byHand')}</span>{' '}
          <code className="font-semibold tracking-wider select-all">{secret.key.match(/.{1,4}/g)?.join(' ')}</code>
        </p>
        <div className="w-48">
          <Field
            label={t('second.code')}
            inputMode="numeric"
            autoComplete="one-time-code"
            value={code}
            onChange={(e) => setCode(e.target.value)}
            error={confirm.error?.message}
          />
        </div>
        <div className="flex gap-2">
          <Button look="primary" type="submit" disabled={confirm.isPending}>
            {t('code.confirm')}
          </Button>
          <Button onClick={onBack}>{t('common.back')}</Button>
        </div>
      </div>
    </form>
  )
}

/** A QR code (ISO/IEC 18004), dark on light in both themes, since readers want it so. */
function Picture({ text }: { text: string }) {
  const { t } = useTranslation()
  const { size, path } = useMemo(() => {
    const code = qrcode(0, 'M')
    code.addData(text)
    code.make()
    const size = code.getModuleCount()
    const cells = Array.from({ length: size * size }, (_, at) => [at % size, Math.floor(at / size)] as const)
    return { size, path: cells.map(([x, y]) => (code.isDark(y, x) ? `M${x} ${y}h1v1h-1z` : '')).join('') }
  }, [text])
  return (
    <svg
      role="img"
      aria-label={t('code.picture')}
      viewBox={`-3 -3 ${size + 6} ${size + 6}`}
      shapeRendering="crispEdges"
      className="size-48"
      style={{ background: '#fff' }}
    >
      <path d={path} fill="black" />
    </svg>
  )
}

function Recovery({ codes }: { codes: readonly string[] }) {
  const { t } = useTranslation()
  return (
    <div role="status" className="flex w-full flex-col items-start gap-2 border-l-4 border-brass pl-3">
      <p>{t('code.recoveryLead')}</p>
      <ul className="grid grid-cols-2 gap-x-6 font-semibold tracking-wider" data-recovery>
        {codes.map((code) => (
          <li key={code}>
            <code>{code}</code>
          </li>
        ))}
      </ul>
      <CopyButton text={codes.join('\n')} label={t('common.copy')} />
    </div>
  )
}

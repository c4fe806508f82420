import { useMutation } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { useTranslation } from 'react-i18next'
import { useNavigate } from 'react-router'
import { recordings, Refused } from '../api/client'
import { Button } from '../ui/Button'
import { Field } from '../ui/Field'
import { Placard } from '../ui/Placard'
import { Failed, Loading } from '../ui/States'

/** Where a link to a recording leads. Its secret stands behind the number sign, which no server writes down. */
export default function SharedPage() {
  const { t } = useTranslation()
  const navigate = useNavigate()
  const [passcode, setPasscode] = useState('')
  const [secret] = useState(() => location.hash.slice(1))
  const open = useMutation({
    mutationFn: (code: string | null) => recordings.open({ secret, passcode: code }),
    onSuccess: ({ recording }) => {
      if (recording) void navigate(`/recordings/${recording}`, { replace: true })
    },
  })
  const asked = useRef(false)
  useEffect(() => {
    if (asked.current) return
    asked.current = true
    open.mutate(null)
  }, [open])
  const reason = open.error instanceof Refused ? open.error.reason : null
  if (reason === 'noSuchLink')
    return (
      <Placard title={t('shared.gone')} spine="brick">
        <p>{t('shared.goneHint')}</p>
      </Placard>
    )
  const asks = open.data?.needsPasscode === true || reason === 'wrongPasscode' || reason === 'tooManyTries'
  if (open.error && !asks) return <Failed sentence={open.error.message} onRetry={() => open.mutate(null)} />
  if (!asks) return <Loading />
  return (
    <Placard title={t('shared.title')}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault()
          open.mutate(passcode)
        }}
      >
        <Field
          label={t('shared.passcode')}
          autoComplete="off"
          value={passcode}
          onChange={(e) => setPasscode(e.target.value)}
          error={open.error?.message}
        />
        <Button look="primary" type="submit" className="self-start" disabled={open.isPending}>
          {t('shared.open')}
        </Button>
      </form>
    </Placard>
  )
}

import { useQuery } from '@tanstack/react-query'
import { useDeferredValue, useEffect, useState } from 'react'
import { useTranslation } from 'react-i18next'
import { account } from '../api/client'
import { Field } from '../ui/Field'

interface Props {
  value: string
  onChange: (value: string) => void
  /** What whoever guesses would try first. */
  name?: string
  email?: string
  error?: string | undefined
}

const pause = 350

/** A password of one's own choice, with its strength in words while it is typed. */
export function NewPassword({ value, onChange, name = '', email = '', error }: Props) {
  const { t } = useTranslation()
  const [shows, setShows] = useState(false)
  const [judged, setJudged] = useState('')
  useEffect(() => {
    const timer = setTimeout(() => setJudged(value), pause)
    return () => clearTimeout(timer)
  }, [value])
  const about = useDeferredValue(`${name}\n${email}`)
  const strength = useQuery({
    queryKey: ['strength', judged, about],
    queryFn: () => account.strength({ password: judged, name, email }),
    enabled: judged.length >= 10,
    staleTime: Infinity,
    gcTime: 0,
  })
  const words =
    value === ''
      ? t('password.hint')
      : value.length < 10
        ? t('password.short')
        : judged === value && strength.data
          ? t(`password.${strength.data.strength}`)
          : ''
  const tone = value.length >= 10 && judged === value && strength.data ? strength.data.strength : null
  return (
    <div>
      <Field
        label={t('password.label')}
        type={shows ? 'text' : 'password'}
        autoComplete="new-password"
        value={value}
        onChange={(e) => onChange(e.target.value)}
        error={error}
      />
      <p className="mt-1 flex min-h-10 items-start justify-between gap-3 text-[0.844rem]">
        <span
          role="status"
          className={tone === 'weak' ? 'font-medium text-brick' : tone === null ? 'text-ink2' : 'font-medium text-moss'}
        >
          {words}
        </span>
        <button
          type="button"
          aria-pressed={shows}
          className="shrink-0 underline underline-offset-4"
          onClick={() => setShows(!shows)}
        >
          {t('password.show')}
        </button>
      </p>
    </div>
  )
}

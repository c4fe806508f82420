import { useQuery } from '@tanstack/react-query'
import { useTranslation } from 'react-i18next'
import { account } from '../api/client'
import { Select } from '../ui/Field'

interface Props {
  sessions: number
  /** An account; null for nobody, which deletes them; undefined while nothing is chosen. */
  value: string | null | undefined
  onChange: (value: string | null | undefined) => void
  mayDelete?: boolean
  /** Who goes, and cannot inherit. */
  not?: string
}

/** Whose the sessions of somebody who goes are from then on. */
export function HeirChoice({ sessions, value, onChange, mayDelete = false, not }: Props) {
  const { t } = useTranslation()
  const colleagues = useQuery({ queryKey: ['colleagues'], queryFn: account.colleagues })
  const me = useQuery({ queryKey: ['me'], queryFn: account.me })
  return (
    <div className="w-80 max-w-full">
      <Select
        label={t('heir.label', { count: sessions })}
        value={value === undefined ? '' : (value ?? 'nobody')}
        onChange={(e) => onChange(e.target.value === '' ? undefined : e.target.value === 'nobody' ? null : e.target.value)}
      >
        <option value="">{t('heir.choose')}</option>
        {not !== undefined && me.data?.id && <option value={me.data.id}>{t('heir.me')}</option>}
        {colleagues.data
          ?.filter((one) => one.id !== not)
          .map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
        {mayDelete && <option value="nobody">{t('heir.nobody')}</option>}
      </Select>
    </div>
  )
}

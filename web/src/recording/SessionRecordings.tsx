import { useQuery } from '@tanstack/react-query'
import { useTranslation } from 'react-i18next'
import { Link } from 'react-router'
import { recordings } from '../api/client'
import { clock, dateAndTime } from '../i18n'
import { Section } from '../planning/Section'

/** What was recorded of a session, on the page where it is planned. */
export function SessionRecordings({ session }: { session: string }) {
  const { t } = useTranslation()
  const list = useQuery({ queryKey: ['recordings'], queryFn: recordings.list })
  const own = (list.data ?? []).filter((one) => one.session === session && one.deletedAt === null)
  if (own.length === 0) return null
  return (
    <Section title={t('library.title')}>
      <ul className="flex flex-col gap-1">
        {own.map((one) => (
          <li key={one.id}>
            <Link to={`/recordings/${one.id}`} className="inline-flex min-h-6 items-center underline underline-offset-4">
              {one.name} · {dateAndTime(one.startedAt)}
              {one.endedAt === null ? ` · ${t('library.running')}` : ` · ${clock(one.length)}`}
            </Link>
          </li>
        ))}
      </ul>
    </Section>
  )
}

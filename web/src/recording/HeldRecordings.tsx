import { useQuery } from '@tanstack/react-query'
import { useTranslation } from 'react-i18next'
import { Link } from 'react-router'
import type { HeldRecording } from '../contract.generated'
import { clock } from '../i18n'

interface Props {
  of: readonly string[]
  read: () => Promise<HeldRecording[]>
}

/** The recordings that one may see, where the session's page or the end of a sitting leads to them. */
export function HeldRecordings({ of, read }: Props) {
  const { t } = useTranslation()
  const list = useQuery({ queryKey: ['held', ...of], queryFn: read, refetchInterval: 10_000 })
  if (!list.data?.length) return null
  return (
    <section aria-labelledby="held-recordings">
      <h2 id="held-recordings" className="mb-1 font-serif text-[1rem] font-semibold">
        {t('library.title')}
      </h2>
      <ul className="flex flex-col gap-1">
        {list.data.map((one) => (
          <li key={one.id}>
            {one.ready ? (
              <Link to={`/recordings/${one.id}`} className="inline-flex min-h-6 items-center underline underline-offset-4">
                {one.name} · {clock(one.length)}
              </Link>
            ) : (
              <span className="text-ink2">{t('library.comes', { name: one.name })}</span>
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}

import { useQuery } from '@tanstack/react-query'
import { useTranslation } from 'react-i18next'
import { recordings } from '../api/client'

/** The papers of the session, for whoever was there or invited; whoever came by a link to the film has none. */
export function RecordedPapers({ id }: { id: string }) {
  const { t } = useTranslation()
  const papers = useQuery({ queryKey: ['recorded-papers', id], queryFn: () => recordings.papers(id), retry: false })
  if (!papers.data?.length) return null
  return (
    <>
      <h3 className="mt-2 text-[0.906rem] font-semibold">{t('player.papers')}</h3>
      <ul className="flex flex-col gap-1">
        {papers.data.map((paper) => (
          <li key={paper.id}>
            <a
              href={recordings.paperAddress(id, paper.id)}
              download={paper.name}
              className="inline-flex min-h-6 items-center underline underline-offset-4"
            >
              {paper.name}
            </a>
          </li>
        ))}
      </ul>
    </>
  )
}

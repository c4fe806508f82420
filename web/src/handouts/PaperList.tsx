import { useQuery } from '@tanstack/react-query'
import { useTranslation } from 'react-i18next'
import { door } from '../api/client'
import { Failure } from '../ui/Failure'

/** The papers, for those who are inside. */
export function PaperList({ link }: { link: string }) {
  const { t } = useTranslation()
  const papers = useQuery({ queryKey: ['papers', link], queryFn: () => door.papers(link) })
  if (papers.error && !papers.data) return <Failure of={[papers.error]} />
  if (!papers.data) return <p className="text-[0.844rem] text-ink2">{t('common.loading')}</p>
  if (papers.data.length === 0) return <p className="text-[0.844rem] text-ink2">{t('papers.none')}</p>
  return (
    <ul className="flex flex-col gap-1 text-[0.875rem]">
      {papers.data.map((paper) => (
        <li key={paper.id}>
          <a href={door.paperAddress(link, paper.id)} download={paper.name} className="underline underline-offset-4">
            {paper.name}
          </a>
        </li>
      ))}
    </ul>
  )
}

import { useQuery } from '@tanstack/react-query'
import { useTranslation } from 'react-i18next'
import { door } from '../api/client'

import type { Sitting } from '../live/store'
import { RibbonItem, RibbonWord } from '../sittings/RibbonItem'
import { CopyButton } from '../ui/CopyButton'
import { Failure } from '../ui/Failure'
import { CallIn } from './CallIn'

/** The facts of the session at hand, to copy: link, title, who leads, papers. */
export function FactsItem({ sitting, url, link }: { sitting: Sitting; url: string; link: string }) {
  const { t } = useTranslation()
  const text = [sitting.session.title, sitting.session.hostName && t('ribbon.ledBy', { host: sitting.session.hostName }), url]
    .filter(Boolean)
    .join('\n')
  return (
    <RibbonWord word={t('ribbon.link')} title={t('link.title')}>
      <p className="mb-2 text-[0.875rem]">{t('link.lead')}</p>
      <p className="mb-3 border border-line bg-paper p-2 text-[0.812rem] break-all select-all">{url}</p>
      <div className="flex flex-wrap gap-2">
        <CopyButton text={url} label={t('link.copy')} />
        <CopyButton text={text} label={t('link.copyAll')} />
      </div>
      <h3 className="mt-4 mb-1 font-serif text-[0.938rem] font-semibold">{t('papers.title')}</h3>
      <PaperList link={link} />
      <CallIn link={link} />
    </RibbonWord>
  )
}

/** The papers where there are any, in the ribbon of those who are not on the bench. */
export function PapersItem({ link }: { link: string }) {
  const { t } = useTranslation()
  const papers = useQuery({ queryKey: ['papers', link], queryFn: () => door.papers(link), refetchInterval: 60_000 })
  if (!papers.data?.length) return null
  return (
    <RibbonItem label={t('papers.title')} value={t('papers.count', { count: papers.data.length })} title={t('papers.title')}>
      <PaperList link={link} />
    </RibbonItem>
  )
}

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

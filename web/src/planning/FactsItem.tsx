import { useTranslation } from 'react-i18next'
import { guestLink } from '../api/client'
import type { Sitting } from '../live/store'
import { RibbonWord } from '../sittings/RibbonItem'
import { CopyButton } from '../ui/CopyButton'
import { CallIn } from './CallIn'

/** The facts of the session at hand, to copy: link, title, who leads. */
export function FactsItem({ sitting, link }: { sitting: Sitting; link: string }) {
  const { t } = useTranslation()
  const url = guestLink(link)
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
      <CallIn link={link} />
    </RibbonWord>
  )
}

import { useTranslation } from 'react-i18next'
import { Pieces } from '../topics/Slots'
import type { PageTopic, Within } from '../topics/slots'
import { ScreenTitle, SkipLink } from '../ui/ScreenTitle'
import { RibbonTitle } from './RibbonItem'

interface Props {
  topics: readonly PageTopic[]
  within: Within
  bench?: boolean
}

/** The state of the session as sentences; each is its own control, and nothing of it stands anywhere else. */
export function Ribbon({ topics, within, bench = false }: Props) {
  const { t } = useTranslation()
  return (
    <header
      aria-label={t('ribbon.label')}
      className="flex min-h-14 shrink-0 items-stretch overflow-x-auto bg-felt text-on-felt max-md:flex-wrap"
    >
      <ScreenTitle title={within.sitting.session.title} className="sr-only" />
      {bench && <SkipLink to="board" label={t('common.skipToBoard')} />}
      <SkipLink to="picture" label={t('common.skipToPicture')} />
      <RibbonTitle sitting={within.sitting} bench={bench} />
      <Pieces topics={topics} within={within} place="ribbon" />
      <span className="flex-1 max-md:hidden" />
      <Pieces topics={topics} within={within} place="ribbonEnd" />
    </header>
  )
}

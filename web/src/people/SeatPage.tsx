import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { MeRow, SittingRow } from '../contract.generated'
import { FloorLine } from '../floor/FloorLine'
import { KeyList } from '../live/KeyList'
import { Notices } from '../live/Notices'
import { useKeys } from '../live/useKeys'
import { switches } from '../media/useOwnDevices'
import { LeaveButton } from '../admission/LeaveButton'
import { RibbonItem, RibbonTitle } from '../orders/RibbonParts'
import { useMaySentence } from '../orders/useMaySentence'
import { Picture } from '../picture/Picture'
import { PictureChoice } from '../picture/PictureChoice'
import { useView } from '../picture/view'
import { PapersItem } from '../planning/FactsItem'
import { Asked } from './Asked'
import { OwnStrip } from './OwnStrip'

/** The page of a presenter or attendee: picture first, and one sentence that says what one may do. */
export function SeatPage({ me, sitting, link }: { me: MeRow; sitting: SittingRow; link: string }) {
  const { t } = useTranslation()
  const sentence = useMaySentence()
  const arrangement = useView((state) => state.arrangement)
  const [keys, setKeys] = useState(false)
  useKeys({ '1': switches.microphone, '2': switches.camera, h: switches.hand, '?': () => setKeys(true) })
  return (
    <div className="flex min-h-dvh flex-col">
      <header aria-label={t('ribbon.label')} className="flex min-h-14 items-stretch overflow-x-auto bg-felt text-on-felt">
        <RibbonTitle sitting={sitting} />
        <RibbonItem label={t('ribbon.view')} value={t(`picture.${arrangement}`)} title={t('picture.title')}>
          <PictureChoice />
        </RibbonItem>
        <PapersItem link={link} />
        <span className="flex-1" />
        <KeyList open={keys} onOpenChange={setKeys} bench={false} />
        <LeaveButton me={me} />
      </header>
      <Notices />
      <main className="flex min-h-0 flex-1 flex-col gap-1 p-3">
        <h1 className="sr-only">{sitting.title}</h1>
        <Picture me={me} />
        <FloorLine me={me} />
        <Asked me={me} host={sitting.hostName} />
        <div className="flex items-stretch gap-4 max-md:flex-col">
          <div className="min-w-96 border border-l-[5px] border-line border-l-seat max-md:min-w-0">
            <OwnStrip me={me} />
          </div>
          <p className="flex flex-1 items-center font-serif text-[16px] leading-snug" data-testid="may">
            {sentence}
          </p>
        </div>
      </main>
    </div>
  )
}

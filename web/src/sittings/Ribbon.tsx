import { useTranslation } from 'react-i18next'
import { AdjournButton } from '../admission/AdjournButton'
import { DoorItem } from '../admission/DoorItem'
import { LeaveButton } from '../admission/LeaveButton'
import { guestLink } from '../api/client'
import type { MeRow } from '../contract.generated'
import type { Sitting } from '../live/store'
import { ShownItem } from '../exhibits/ShownItem'
import { FilesWord } from '../handouts/FilesItem'
import { FloorItem } from '../floor/FloorItem'
import { wish } from '../live/connection'
import { FactsItem } from '../planning/FactsItem'
import { PictureItem } from '../picture/PictureItem'
import { RecordingItem } from '../recording/RecordingItem'
import { ScreenTitle, SkipLink } from '../ui/ScreenTitle'
import { SettingsItem } from '../settings/SettingsItem'
import { OrdersItem } from '../orders/OrderItems'
import { RibbonTitle } from './RibbonItem'

interface Props {
  me: MeRow
  sitting: Sitting
  link: string
  doorOpen: boolean
  onDoorOpen: (open: boolean) => void
  recordingOpen: boolean
  onRecordingOpen: (open: boolean) => void
  settingsOpen: boolean
  onSettingsOpen: (open: boolean) => void
}

/** The state of the session as sentences; each is its own control, and nothing of it stands anywhere else. */
export function Ribbon({
  me,
  sitting,
  link,
  doorOpen,
  onDoorOpen,
  recordingOpen,
  onRecordingOpen,
  settingsOpen,
  onSettingsOpen,
}: Props) {
  const { t } = useTranslation()
  const url = guestLink(link)
  return (
    <header
      aria-label={t('ribbon.label')}
      className="flex min-h-14 shrink-0 items-stretch overflow-x-auto bg-felt text-on-felt max-md:flex-wrap"
    >
      <ScreenTitle title={sitting.session.title} className="sr-only" />
      <SkipLink to="board" label={t('common.skipToBoard')} />
      <SkipLink to="picture" label={t('common.skipToPicture')} />
      <RibbonTitle sitting={sitting} bench />
      {sitting.session.phase === 'prepare' && (
        <button
          className="shrink-0 border-l border-brass bg-brass-soft px-4 text-left text-ink"
          onClick={() => void wish({ do: 'begin' })}
        >
          <span className="block text-[0.719rem] text-brass-ink">{t('prepare.now')}</span>
          <span className="block text-[0.844rem] font-semibold whitespace-nowrap">{t('prepare.begin')}</span>
        </button>
      )}
      <DoorItem sitting={sitting} open={doorOpen} onOpenChange={onDoorOpen} />
      <OrdersItem sitting={sitting} />
      {sitting.floor.rule && <FloorItem floor={sitting.floor.rule} />}
      <ShownItem me={me} sitting={sitting} link={link} />
      <RecordingItem me={me} sitting={sitting} open={recordingOpen} onOpenChange={onRecordingOpen} />
      <PictureItem me={me} />
      <span className="flex-1 max-md:hidden" />
      <FilesWord me={me} sitting={sitting} link={link} />
      <FactsItem sitting={sitting} url={url} link={link} />
      <SettingsItem open={settingsOpen} onOpenChange={onSettingsOpen} bench />
      <LeaveButton me={me} />
      {me.may.includes('adjourn') && <AdjournButton sitting={sitting} />}
    </header>
  )
}

import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import { Boundary } from '../ui/Boundary'
import { silence } from '../media/useOwnDevices'
import { OldPage } from './OldPage'
import { LeaveButton } from '../admission/LeaveButton'
import { ChatSide } from '../chat/ChatSide'
import { PutUpBanner } from '../chat/PutUpBanner'
import { useUnread, useWriting } from '../chat/store'
import type { MeRow } from '../contract.generated'
import { wish } from '../live/connection'
import type { Sitting } from '../live/store'
import { ShownItem } from '../exhibits/ShownItem'
import { FilesItem } from '../handouts/FilesItem'
import { OfferedFiles } from '../handouts/OfferedFiles'
import { FloorLine } from '../floor/FloorLine'
import { Captioned } from '../captions/CaptionStrip'
import { CaptionsSide } from '../captions/CaptionsSide'
import { toggleCaptions } from '../captions/store'
import { useNamed } from '../captions/useNamed'
import { LentBanner } from '../lending/LentBanner'
import { Notices } from './Notices'
import { Side } from './Side'
import { useSide } from './useSide'
import { switches } from '../media/useOwnDevices'
import { RibbonTitle } from './RibbonItem'
import { useMaySentence } from '../orders/useMaySentence'
import { Picture } from '../picture/Picture'
import { PictureItem } from '../picture/PictureItem'
import { toggleFullScreen } from '../picture/view'
import { PollPlace } from '../polls/PollPlace'
import { RoomPlace } from '../rooms/RoomPlace'
import { OwnRecorder } from '../ownRecording/OwnRecorder'
import { ConsentCard } from '../recording/ConsentCard'
import { RecordedMark } from '../recording/RecordedMark'
import { SettingsItem } from '../settings/SettingsItem'
import { useKeys } from '../settings/useKeys'
import { Holding } from '../timing/Holding'
import { Asked } from '../people/Asked'
import { NotesSide } from '../notes/NotesSide'
import { OwnStrip } from '../people/OwnStrip'
import { ScreenTitle, SkipLink } from '../ui/ScreenTitle'

/** The page of a presenter or attendee: picture first, and one sentence that says what one may do. */
export function SeatPage({ me, sitting, id, link }: { me: MeRow; sitting: Sitting; id: string; link: string }) {
  const { t } = useTranslation()
  const sentence = useMaySentence()
  const unread = useUnread()
  const [settings, setSettings] = useState(false)
  const [side, setSide] = useSide('chat')
  useNamed(me, () => setSide('captions'))
  const write = useWriting(() => setSide('chat'))
  useKeys({
    mic: switches.microphone,
    cam: switches.camera,
    hand: switches.hand,
    captions: toggleCaptions,
    callBench: () => {
      if (me.room !== null) void wish({ do: 'callBench', on: true })
    },
    fullScreen: toggleFullScreen,
    help: () => setSettings(true),
    write,
  })
  return (
    <div className="flex h-dvh min-h-140 flex-col max-md:h-auto max-md:min-h-dvh">
      <header
        aria-label={t('ribbon.label')}
        className="flex min-h-14 shrink-0 items-stretch overflow-x-auto bg-felt text-on-felt max-md:flex-wrap"
      >
        <ScreenTitle title={sitting.session.title} className="sr-only" />
        <SkipLink to="picture" label={t('common.skipToPicture')} />
        <Boundary place="ribbon">
          <RibbonTitle sitting={sitting} />
          <RecordedMark me={me} sitting={sitting} />
          <ShownItem me={me} sitting={sitting} link={link} />
          <PictureItem me={me} />
          <FilesItem me={me} sitting={sitting} link={link} />
        </Boundary>
        <span className="flex-1 max-md:hidden" />
        <SettingsItem open={settings} onOpenChange={setSettings} bench={false} />
        <LeaveButton me={me} />
      </header>
      <OldPage />
      <div className="flex min-h-0 flex-1 max-md:flex-col">
        <main
          id="picture"
          tabIndex={-1}
          className="flex min-h-0 min-w-0 flex-1 flex-col gap-1 bg-linen p-3 outline-none max-md:p-2"
        >
          <Boundary place="card">
            <RoomPlace me={me} sitting={sitting} />
          </Boundary>
          <PutUpBanner />
          <Notices over />
          {sitting.time.recess ? (
            <Holding recess={sitting.time.recess} />
          ) : (
            <Captioned>
              <Boundary place="picture">
                <Picture me={me} />
              </Boundary>
            </Captioned>
          )}
          <Boundary place="card">
            <FloorLine me={me} />
          </Boundary>
          <Boundary place="card">
            <LentBanner me={me} sitting={sitting} />
          </Boundary>
          <Boundary place="card">
            <OfferedFiles me={me} />
          </Boundary>
          <Boundary place="card">
            <Asked me={me} host={sitting.session.hostName} />
          </Boundary>
          <Boundary place="card">
            <OwnRecorder me={me} sitting={sitting} />
          </Boundary>
          <Boundary place="card">
            <ConsentCard me={me} recording={sitting.recording} />
          </Boundary>
          <Boundary place="card">
            <PollPlace me={me} sitting={sitting} />
          </Boundary>
          <div className="flex items-stretch gap-4 max-xl:flex-col max-xl:gap-2">
            <div className="max-w-152 min-w-96 border border-l-[5px] border-line border-l-seat max-md:min-w-0">
              <Boundary place="strip" onFailure={silence}>
                <OwnStrip me={me} />
              </Boundary>
            </div>
            <p className="flex flex-1 items-center font-serif text-[0.969rem] leading-snug" data-testid="may">
              {sentence}
            </p>
          </div>
        </main>
        <Side
          label={t('side.label')}
          shown={side}
          onShow={setSide}
          parts={[
            { key: 'chat', label: t('chat.title'), count: unread, content: <ChatSide me={me} sitting={id} /> },
            { key: 'notes', label: t('notes.title'), content: <NotesSide sitting={id} title={sitting.session.title} /> },
            ...(sitting.captions.on || me.captioner
              ? [
                  {
                    key: 'captions',
                    label: t('captions.title'),
                    wide: me.captioner !== null,
                    content: <CaptionsSide me={me} />,
                  },
                ]
              : []),
          ]}
        />
      </div>
    </div>
  )
}

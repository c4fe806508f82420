import { useEffect, useState, type ReactNode } from 'react'
import { createPortal } from 'react-dom'
import { useTranslation } from 'react-i18next'
import { useUnread } from '../chat/store'
import type { ExhibitRow } from '../contract.generated'
import { clock } from '../i18n'
import { wish } from '../live/connection'
import { useLive } from '../live/store'
import { useNow } from '../live/time'
import { Button } from '../ui/Button'
import { ExhibitCanvas } from './ExhibitTile'
import { closeScreen, holdScreen } from './ownScreen'

/** A window that stays above all others (Document Picture-in-Picture), where the browser has it. */
interface OnTopWindow {
  requestWindow: (size: { width: number; height: number }) => Promise<Window>
}
const onTop = (window as unknown as { documentPictureInPicture?: OnTopWindow }).documentPictureInPicture

/** What one needs while one's own page is hidden behind what one shows; beside it a button that opens it. */
export function OnTop({ exhibit }: { exhibit: ExhibitRow }) {
  const { t } = useTranslation()
  const [opened, setOpened] = useState<Window | null>(null)
  useEffect(() => () => opened?.close(), [opened])
  if (!onTop) return null
  const open = async () => {
    const small = await onTop.requestWindow({ width: 340, height: 300 }).catch(() => null)
    if (!small) return
    for (const style of document.querySelectorAll('style, link[rel=stylesheet]')) small.document.head.append(style.cloneNode(true))
    small.document.documentElement.className = document.documentElement.className
    Object.assign(small.document.documentElement.dataset, document.documentElement.dataset)
    small.document.documentElement.lang = document.documentElement.lang
    small.document.title = t('exhibits.mine')
    small.addEventListener('pagehide', () => setOpened(null))
    setOpened(small)
  }
  return (
    <>
      {!opened && <Button onClick={() => void open()}>{t('exhibits.onTop')}</Button>}
      {opened && createPortal(<Small exhibit={exhibit} />, opened.document.body)}
    </>
  )
}

function Small({ exhibit }: { exhibit: ExhibitRow }) {
  const { t } = useTranslation()
  const now = useNow()
  const unread = useUnread()
  const hands = useLive((state) => [...state.seats.values()].filter((seat) => seat.hand !== null).length)
  return (
    <main className="flex h-dvh flex-col gap-2 bg-paper p-2 text-ink">
      <p role="status" className="text-[0.844rem] font-semibold">
        {exhibit.shown
          ? t(exhibit.held ? 'exhibits.heldForAll' : 'exhibits.allSee', { time: clock(now - exhibit.since) })
          : t('exhibits.youSee')}
      </p>
      <div className={`min-h-0 flex-1 border-2 bg-dusk ${exhibit.shown && !exhibit.held ? 'border-moss' : 'border-brass'}`}>
        <ExhibitCanvas exhibit={exhibit} />
      </div>
      <p className="flex gap-3 text-[0.812rem]">
        <Count>{t('exhibits.hands', { count: hands })}</Count>
        <Count>{t('exhibits.unread', { count: unread })}</Count>
      </p>
      <p className="flex flex-wrap gap-1.5">
        {exhibit.shown ? (
          <>
            <Button small look="primary" onClick={() => void holdScreen(!exhibit.held)}>
              {t(exhibit.held ? 'exhibits.goOn' : 'exhibits.hold')}
            </Button>
            <Button small onClick={() => void wish({ do: 'takeDown', exhibit: exhibit.number })}>
              {t('exhibits.takeDown')}
            </Button>
          </>
        ) : (
          <Button small look="primary" onClick={() => void wish({ do: 'showExhibit', exhibit: exhibit.number, beside: false })}>
            {t('exhibits.show')}
          </Button>
        )}
        <Button small onClick={() => void closeScreen()}>
          {t('exhibits.close')}
        </Button>
      </p>
    </main>
  )
}

const Count = ({ children }: { children: ReactNode }) => <span className="font-semibold">{children}</span>

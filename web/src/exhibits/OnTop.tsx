import { useEffect, type ReactNode } from 'react'
import { createPortal } from 'react-dom'
import { useTranslation } from 'react-i18next'
import { create } from 'zustand'
import { useUnread } from '../chat/store'
import type { ExhibitRow } from '../contract.generated'
import { clock } from '../i18n'
import { wish } from '../live/connection'
import { useLive } from '../live/store'
import { useNow } from '../live/time'
import { Button } from '../ui/Button'
import { ExhibitCanvas } from './ExhibitCanvas'
import { closeScreen, holdScreen } from './ownScreen'

/** A window that stays above all others (Document Picture-in-Picture), where the browser has it. */
interface OnTopWindow {
  requestWindow: (size: { width: number; height: number }) => Promise<Window>
}
const onTop = (window as unknown as { documentPictureInPicture?: OnTopWindow }).documentPictureInPicture

export const hasOnTop = onTop !== undefined

const useOnTop = create<{ opened: Window | null }>(() => ({ opened: null }))

/** Opens it. Call inside a click. */
export async function openOnTop(title: string) {
  const small = await onTop?.requestWindow({ width: 340, height: 300 }).catch(() => null)
  if (!small) return
  for (const style of document.querySelectorAll('style, link[rel=stylesheet]')) small.document.head.append(style.cloneNode(true))
  Object.assign(small.document.documentElement.dataset, document.documentElement.dataset)
  small.document.documentElement.lang = document.documentElement.lang
  small.document.title = title
  small.addEventListener('pagehide', () => useOnTop.setState({ opened: null }))
  useOnTop.setState({ opened: small })
}

/** What one needs while one's own page is hidden behind what one shows: in a window of its own, as long as a screen is open. */
export function OnTopWindow() {
  const opened = useOnTop((state) => state.opened)
  const exhibit = useLive((state) => state.me?.exhibits.find((one) => one.kind === 'screen' && one.by === state.me?.seat))
  const goes = exhibit === undefined
  useEffect(() => {
    if (goes) opened?.close()
  }, [goes, opened])
  return opened && exhibit ? createPortal(<Small exhibit={exhibit} />, opened.document.body) : null
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

import { useEffect, useRef, useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { ExhibitRow } from '../contract.generated'
import { currentSitting } from '../live/connection'
import { smallPicture } from './pages'

interface Props {
  exhibit: ExhibitRow
  page: number
  turnTo: (page: number) => void
}

/** All pages, small, in a line, for whoever may look ahead; each is fetched when it comes into sight. */
export function PageLine({ exhibit, page, turnTo }: Props) {
  const { t } = useTranslation()
  const line = useRef<HTMLDivElement>(null)
  const pages = exhibit.pages!
  useEffect(() => {
    line.current?.querySelector(`[data-small="${page}"]`)?.scrollIntoView({ block: 'nearest', inline: 'center' })
  }, [page])
  return (
    <div
      ref={line}
      role="group"
      aria-label={t('exhibits.allPages')}
      className="flex h-21 shrink-0 gap-1.5 overflow-x-auto border-t border-line bg-linen px-2 py-1.5"
    >
      {Array.from({ length: pages.count }, (_, at) => at + 1).map((one) => (
        <Small key={one} exhibit={exhibit} page={one} now={one === page} all={one === pages.at} turnTo={turnTo} />
      ))}
    </div>
  )
}

function Small({ exhibit, page, now, all, turnTo }: Props & { now: boolean; all: boolean }) {
  const { t } = useTranslation()
  const button = useRef<HTMLButtonElement>(null)
  const [picture, setPicture] = useState<string | null>(null)
  const file = exhibit.pages?.file
  useEffect(() => {
    let address: string | null = null
    let over = false
    const fetchIt = () =>
      void smallPicture(currentSitting(), exhibit, page).then(
        (made) => {
          address = made
          if (over) URL.revokeObjectURL(made)
          else setPicture(made)
        },
        () => undefined,
      )
    const watcher = new IntersectionObserver((seen) => {
      if (!seen.some((one) => one.isIntersecting)) return
      watcher.disconnect()
      fetchIt()
    })
    watcher.observe(button.current!)
    return () => {
      over = true
      watcher.disconnect()
      if (address) URL.revokeObjectURL(address)
    }
    // The exhibit is another object with every change of it; its file and the page say which picture it is.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [file, page])
  return (
    <button
      ref={button}
      data-small={page}
      aria-label={t(all ? 'exhibits.smallPageAll' : 'exhibits.smallPage', { page })}
      aria-current={now ? 'page' : undefined}
      onClick={() => turnTo(page)}
      className={`flex w-24 shrink-0 flex-col items-center justify-end gap-0.5 border-2 bg-raised text-[0.719rem] ${
        now ? 'border-brass font-semibold' : 'border-line hover:border-edge'
      }`}
    >
      {picture && <img src={picture} alt="" className="min-h-0 flex-1 object-contain" />}
      <span>
        {page}
        {all && !now ? ' ·' : ''}
      </span>
    </button>
  )
}

import { clsx } from 'clsx'
import { useEffect, useRef, useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { ExhibitRow } from '../contract.generated'
import { media } from '../media/engine'
import { Button } from '../ui/Button'

/** How large one may look at an exhibit, each for oneself; 1 is whole. */
const scales = [1, 1.5, 2, 3, 4]

/** An exhibit as all see it: whole, whatever its shape, until one looks closer. */
export function ExhibitTile({ exhibit }: { exhibit: ExhibitRow }) {
  const { t } = useTranslation()
  const [at, setAt] = useState(0)
  const area = useRef<HTMLDivElement>(null)
  const scale = scales[at]!
  const step = (by: 1 | -1) => setAt((now) => Math.max(0, Math.min(scales.length - 1, now + by)))
  const middle = useRef({ x: 0.5, y: 0.5 })
  // What was in the middle stays there.
  useEffect(() => {
    const box = area.current
    if (!box) return
    box.scrollTo(
      middle.current.x * box.scrollWidth - box.clientWidth / 2,
      middle.current.y * box.scrollHeight - box.clientHeight / 2,
    )
  }, [scale])
  const name = exhibit.title || t('exhibits.screenOf', { name: exhibit.byName })
  return (
    <figure
      data-exhibit={exhibit.letter}
      className={clsx('flex h-full flex-col border bg-raised', exhibit.held ? 'border-brass' : 'border-line')}
    >
      <div
        ref={area}
        role="region"
        aria-label={name}
        // Scrolled with the keyboard once it is larger than its place.
        tabIndex={scale > 1 ? 0 : undefined}
        className={clsx('min-h-0 flex-1 bg-dusk', scale > 1 ? 'overflow-auto' : 'overflow-hidden')}
        onScroll={({ currentTarget: box }) => {
          middle.current = {
            x: (box.scrollLeft + box.clientWidth / 2) / box.scrollWidth,
            y: (box.scrollTop + box.clientHeight / 2) / box.scrollHeight,
          }
        }}
        onDoubleClick={() => setAt((now) => (now === 0 ? 2 : 0))}
      >
        <div style={{ width: `${scale * 100}%`, height: `${scale * 100}%` }}>
          <ExhibitCanvas exhibit={exhibit} />
        </div>
      </div>
      <figcaption className="flex h-9 items-center gap-2 overflow-hidden px-2 text-[1rem] whitespace-nowrap">
        <b className="rounded-sm bg-felt px-1.5 text-[0.812rem] text-on-felt">{exhibit.letter}</b>
        <span className="overflow-hidden font-serif font-semibold text-ellipsis">{name}</span>
        {exhibit.title && <span className="text-[0.719rem] text-ink2">{exhibit.byName}</span>}
        {exhibit.held && (
          <span className="rounded-sm bg-brass-soft px-1 text-[0.75rem] font-semibold text-brass-ink">{t('exhibits.held')}</span>
        )}
        <span className="ml-auto flex items-center gap-1.5 text-[0.781rem] text-ink2">
          {scale > 1 && <span role="status">{t('settings.percent', { count: scale * 100 })}</span>}
          <Button small aria-label={t('exhibits.smaller')} disabled={at === 0} onClick={() => step(-1)}>
            −
          </Button>
          <Button small aria-label={t('exhibits.larger')} disabled={at === scales.length - 1} onClick={() => step(1)}>
            +
          </Button>
        </span>
      </figcaption>
    </figure>
  )
}

/** What the relay passes on of it, also to whoever shows it. */
export function ExhibitCanvas({ exhibit }: { exhibit: ExhibitRow }) {
  const { t } = useTranslation()
  const canvas = useRef<HTMLCanvasElement>(null)
  const { by } = exhibit
  useEffect(() => (canvas.current ? media.show(by, canvas.current, 'screen') : undefined), [by])
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label={exhibit.title || t('exhibits.screenOf', { name: exhibit.byName })}
      className="block size-full object-contain"
    />
  )
}

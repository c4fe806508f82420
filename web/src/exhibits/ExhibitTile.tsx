import { clsx } from 'clsx'
import { useEffect, useRef } from 'react'
import { useTranslation } from 'react-i18next'
import type { ExhibitRow } from '../contract.generated'
import { media } from '../media/engine'

/** An exhibit as all see it: whole, whatever its shape. */
export function ExhibitTile({ exhibit }: { exhibit: ExhibitRow }) {
  const { t } = useTranslation()
  return (
    <figure
      data-exhibit={exhibit.letter}
      className={clsx('flex h-full flex-col border bg-raised', exhibit.held ? 'border-brass' : 'border-line')}
    >
      <div className="min-h-0 flex-1 bg-dusk">
        <ExhibitCanvas exhibit={exhibit} />
      </div>
      <figcaption className="flex h-9 items-baseline gap-2 overflow-hidden px-2 pt-1.5 text-[1rem] whitespace-nowrap">
        <b className="self-center rounded-sm bg-felt px-1.5 text-[0.812rem] text-on-felt">{exhibit.letter}</b>
        <span className="overflow-hidden font-serif font-semibold text-ellipsis">
          {exhibit.title || t('exhibits.screenOf', { name: exhibit.byName })}
        </span>
        {exhibit.title && <span className="text-[0.719rem] text-ink2">{exhibit.byName}</span>}
        {exhibit.held && (
          <span className="rounded-sm bg-brass-soft px-1 text-[0.75rem] font-semibold text-brass-ink">{t('exhibits.held')}</span>
        )}
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

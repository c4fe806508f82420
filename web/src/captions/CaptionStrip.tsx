import { clsx } from 'clsx'
import { type ReactNode } from 'react'
import { useTranslation } from 'react-i18next'
import { useLive } from '../live/store'
import { useNow } from '../live/time'
import { useCaptions, useReading } from './store'

/** How long a line stands when none follows, in milliseconds. */
const stands = 12_000
const most = 3

/** The picture, with what is said in words where this reader wants it. */
export function Captioned({ children }: { children: ReactNode }) {
  const { on, place } = useReading()
  const any = useLive((state) => state.sitting?.captions.on ?? false)
  const shown = on && any
  return (
    <div className="relative flex min-h-0 flex-1 flex-col gap-1">
      {shown && place === 'above' && <CaptionStrip />}
      {children}
      {shown && place === 'below' && <CaptionStrip />}
      {shown && place === 'over' && (
        <div className="pointer-events-none absolute inset-x-0 bottom-9 z-10 flex max-h-[45%] items-end justify-center px-4">
          <CaptionStrip over />
        </div>
      )}
    </div>
  )
}

/** The newest lines. It keeps its height, so that the picture does not jump. */
function CaptionStrip({ over = false }: { over?: boolean }) {
  const { t } = useTranslation()
  const { size } = useReading()
  const { lines, at } = useCaptions()
  const now = useNow()
  // What came just after the clock's last tick is new.
  const newest = lines.slice(-most).filter((line) => now - (at.get(line.number) ?? now) < stands)
  return (
    <div
      role="log"
      aria-label={t('captions.title')}
      style={{ fontSize: `${size / 100}rem`, height: over ? undefined : `${most * 1.35 + 0.5}em` }}
      className={clsx(
        // What finds no room above is the older part.
        'flex flex-col justify-end overflow-hidden leading-[1.35] font-medium',
        over
          ? clsx('max-h-full max-w-3xl bg-felt/95 px-3 text-on-felt', newest.length > 0 && 'py-1')
          : 'shrink-0 max-md:sticky max-md:bottom-12 max-md:z-10 border border-line bg-paper px-3 py-1',
      )}
    >
      {newest.map((line, index) => (
        <p key={line.number} className="mx-auto w-full max-w-4xl">
          {line.name && line.speaker !== newest[index - 1]?.speaker && (
            <span className={clsx('font-serif font-semibold', over ? 'text-on-felt2' : 'text-felt-ink')}>{line.name}: </span>
          )}
          {line.text}
        </p>
      ))}
      {newest.length === 0 && !over && <p className="mx-auto w-full max-w-4xl text-ink2">{t('captions.quiet')}</p>}
    </div>
  )
}

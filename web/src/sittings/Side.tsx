import { clsx } from 'clsx'
import type { ReactNode } from 'react'
import { Boundary } from '../ui/Boundary'

export interface SideTab {
  key: string
  label: string
  /** Something new in it, counted. */
  useCount?: () => number
  content: ReactNode
  /** It needs more room than the others. */
  wide?: boolean
}

interface Props {
  label: string
  parts: readonly SideTab[]
  shown: string | null
  onShow: (key: string | null) => void
  /** It lies over the picture when it is open, and takes no room from it. */
  over?: boolean
}

/** One thing at a time beside the picture, or on a narrow page over its foot; it can be closed. */
export function Side({ label, parts, shown, onShow, over = false }: Props) {
  const part = parts.find((one) => one.key === shown)
  return (
    <aside
      aria-label={label}
      className={clsx(
        'flex shrink-0',
        over ? 'md:absolute md:top-0 md:right-0 md:bottom-0 md:z-20' : '',
        over && part ? 'md:bottom-[3.5rem] md:shadow-[-4px_0_16px_rgb(0_0_0/0.18)]' : '',
        'border-l border-line bg-paper max-md:sticky max-md:bottom-0 max-md:z-20 max-md:w-full',
        'max-md:flex-col max-md:border-l-0',
        part
          ? 'max-md:h-[clamp(14rem,100dvh-9rem,min(28rem,75dvh))] max-md:border-t max-md:shadow-[0_-4px_12px_rgb(0_0_0/0.18)]'
          : '',
        part && (part.wide ? 'w-108 max-lg:w-78' : 'w-78'),
      )}
    >
      {part && (
        <Boundary key={part.key} place="side">
          {part.content}
        </Boundary>
      )}
      <nav
        aria-label={label}
        className={clsx(
          'flex w-8 shrink-0 flex-col gap-1.5 border-l border-line bg-linen pt-2.5 max-md:w-full',
          'max-md:flex-row max-md:gap-1 max-md:overflow-x-auto max-md:border-t max-md:border-l-0 max-md:px-1.5 max-md:pt-0',
        )}
      >
        {parts.map(({ key, label: name, useCount = noCount }) => (
          <button
            key={key}
            aria-expanded={key === shown}
            onClick={() => onShow(key === shown ? null : key)}
            className={clsx(
              'flex shrink-0 flex-col items-center gap-1.5 border-y border-line py-2.5 text-[0.812rem]',
              'font-semibold max-md:min-h-11 max-md:flex-row max-md:border-x max-md:border-y-0 max-md:px-2',
              key === shown ? 'bg-paper max-md:-mt-px md:-ml-px' : 'text-ink2',
            )}
          >
            <span className="md:[writing-mode:vertical-rl]">{name}</span>
            {key !== shown && <Count useCount={useCount} />}
          </button>
        ))}
      </nav>
    </aside>
  )
}

const noCount = () => 0

function Count({ useCount }: { useCount: () => number }) {
  const count = useCount()
  return (
    count > 0 && <span className="rounded-sm bg-brass-soft px-1 text-[0.75rem] text-brass-ink">{count > 99 ? '99+' : count}</span>
  )
}

import { clsx } from 'clsx'
import { Popover } from 'radix-ui'
import type { ReactElement, ReactNode } from 'react'

interface Props {
  trigger: ReactElement
  title: string
  children: ReactNode
  open?: boolean
  onOpenChange?: (open: boolean) => void
  side?: 'bottom' | 'top' | 'right'
  align?: 'start' | 'end'
  wide?: boolean
  medium?: boolean
}

/** Whoever has gone on to another field while the panel closed goes on typing there. */
const keepNewFocus = (event: Event) => {
  if (document.activeElement && document.activeElement !== document.body) event.preventDefault()
}

/** A small panel in place that changes one thing; nothing behind it is blocked. */
export function Panel({
  trigger,
  title,
  children,
  open,
  onOpenChange,
  side = 'bottom',
  align = 'start',
  wide = false,
  medium = false,
}: Props) {
  const heading = title.replace(/…$/, '')
  const controlled = open === undefined ? {} : { open }
  return (
    <Popover.Root {...controlled} {...(onOpenChange ? { onOpenChange } : {})}>
      <Popover.Trigger asChild>{trigger}</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side={side}
          align={align}
          sideOffset={4}
          collisionPadding={8}
          aria-label={heading}
          onCloseAutoFocus={keepNewFocus}
          className={clsx(
            `z-30 ${wide ? 'w-[44rem]' : medium ? 'w-[34rem]' : 'w-80'} max-w-[calc(100vw-16px)]`,
            'max-h-(--radix-popover-content-available-height) overflow-auto border border-felt bg-raised p-4',
            'text-ink shadow-[0_6px_24px_rgb(0_0_0/0.18)]',
          )}
        >
          <h2 className="mb-2 font-serif text-[1rem] font-semibold">{heading}</h2>
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}

export const PanelClose = Popover.Close

import { clsx } from 'clsx'
import { useEffect, useRef } from 'react'
import { useTranslation } from 'react-i18next'

/** The page as it was loaded: there the browser's own beginning is the right one. */
let isFirst = true

interface Props {
  title: string
  /** What the browser's tab says, where it is not the title itself. */
  page?: string
  className?: string
}

/**
 * The heading of a screen. When a screen takes another one's place, the focus is led to it, unless it stands in a field already; so
 * readers hear where they are, and keys go on from the top.
 */
export function ScreenTitle({ title, page = title, className = '' }: Props) {
  const { t } = useTranslation()
  const heading = useRef<HTMLHeadingElement>(null)
  useEffect(() => {
    document.title = `${page} · ${t('product')}`
  }, [page, t])
  useEffect(() => {
    const lost = document.activeElement === null || document.activeElement === document.body
    if (!isFirst && lost) heading.current?.focus({ preventScroll: true })
    isFirst = false
  }, [])
  return (
    <h1 ref={heading} tabIndex={-1} className={`outline-none ${className}`}>
      {title}
    </h1>
  )
}

/** The first stop of a page: past all that stands before its content. */
export function SkipLink({ to, label }: { to: string; label: string }) {
  return (
    <a
      href={`#${to}`}
      onClick={(event) => {
        event.preventDefault()
        document.getElementById(to)?.focus()
      }}
      className={clsx(
        'sr-only focus:not-sr-only focus:absolute focus:top-1 focus:left-1 focus:z-50 focus:border',
        'focus:border-felt focus:bg-raised focus:px-3 focus:py-2 focus:font-semibold focus:text-ink',
      )}
    >
      {label}
    </a>
  )
}

import { clsx } from 'clsx'
import { useState, type ReactNode } from 'react'
import { useTranslation } from 'react-i18next'

import type { Sitting } from '../live/store'
import { clock } from '../i18n'
import { useNow } from '../live/time'
import { useTimeLeft } from '../timing/left'
import { TimePanel } from '../timing/TimePanel'
import { Panel } from '../ui/Panel'

/** The title, the phase and how long it lasts; for the bench it opens onto recess and the planned end. */
export function RibbonTitle({ sitting, bench = false }: { sitting: Sitting; bench?: boolean }) {
  const { t } = useTranslation()
  const now = useNow()
  const left = useTimeLeft()
  const { item } = sitting.business
  const unusual = sitting.session.phase === 'recess' || (bench && left?.warns === true)
  const words = (
    <>
      <span className="block overflow-hidden font-serif text-[1.125rem] leading-tight font-semibold text-ellipsis">
        {sitting.session.title}
      </span>
      <span
        className={clsx(
          'block overflow-hidden text-[0.781rem] text-ellipsis',
          unusual ? 'text-brass-ink' : 'text-on-felt2 group-hover:text-on-felt group-data-[state=open]:text-on-felt',
        )}
      >
        {t(`phase.${sitting.session.phase}`)}{' '}
        <b className={`font-semibold ${unusual ? 'text-ink' : 'text-on-felt'}`}>{clock(now - sitting.session.openedAt)}</b>
        {left && ` · ${left.words}`}
        {item && ` · ${t('runSheet.now', { number: item.number, of: item.of, title: item.title })}`}
        {!bench && sitting.session.hostName && ` · ${t('ribbon.ledBy', { host: sitting.session.hostName })}`}
      </span>
    </>
  )
  const look = clsx(
    'flex min-w-40 shrink-[3] flex-col justify-center overflow-hidden px-4 max-md:min-h-12',
    'max-md:basis-full max-md:px-2.5 max-md:py-1.5 text-left whitespace-nowrap max-md:whitespace-normal',
    bench ? 'lg:max-w-72' : 'lg:max-w-lg',
    unusual ? 'bg-brass-soft text-ink' : '',
  )
  if (!bench) return <div className={look}>{words}</div>
  return (
    <Panel
      title={t('time.title')}
      trigger={
        <button className={`group ${look} ${unusual ? '' : 'hover:bg-felt-line data-[state=open]:bg-felt-line'}`}>{words}</button>
      }
    >
      <TimePanel sitting={sitting} />
    </Panel>
  )
}

interface ItemProps {
  label: string
  value: string
  title: string
  /** What is unusual is filled; what is on record in its own colour. */
  unusual?: boolean
  onRecord?: boolean
  wide?: boolean
  medium?: boolean
  children: ReactNode | ((close: () => void) => ReactNode)
  open?: boolean
  onOpenChange?: (open: boolean) => void
}

/** A sentence of the session's state, which is its own control. */
export function RibbonItem({
  label,
  value,
  title,
  unusual = false,
  onRecord = false,
  wide = false,
  medium = false,
  children,
  open,
  onOpenChange,
}: ItemProps) {
  const [own, setOwn] = useState(false)
  const isOpen = open ?? own
  const change = onOpenChange ?? setOwn
  return (
    <Panel
      title={title}
      wide={wide}
      medium={medium}
      open={isOpen}
      onOpenChange={change}
      trigger={
        <button
          className={clsx(
            'group flex max-w-72 min-w-16 shrink flex-col justify-center overflow-hidden border-l px-3',
            'text-left max-md:min-h-11 max-md:max-w-none max-md:grow max-md:px-2.5 whitespace-nowrap',
            onRecord
              ? 'border-plum bg-plum-soft text-ink'
              : unusual
                ? 'border-brass bg-brass-soft text-ink'
                : 'border-felt-line hover:bg-felt-line data-[state=open]:bg-felt-line',
          )}
        >
          <span
            className={clsx(
              'text-[0.719rem]',
              onRecord
                ? 'text-plum'
                : unusual
                  ? 'text-brass-ink'
                  : 'text-on-felt2 group-hover:text-on-felt group-data-[state=open]:text-on-felt',
            )}
          >
            {label}
          </span>
          <span className="block max-w-full overflow-hidden text-[0.844rem] font-semibold text-ellipsis">{value}</span>
        </button>
      }
    >
      {typeof children === 'function' ? children(() => change(false)) : children}
    </Panel>
  )
}

interface Word {
  word: string
  title: string
  medium?: boolean
  children: ReactNode
}

/** What stands at the ribbon's end, apart from the sentences, and opens in place. */
export function RibbonWord({ word, title, medium = false, children }: Word) {
  return (
    <Panel title={title} medium={medium} align="end" trigger={<button className={ribbonWord}>{word}</button>}>
      {children}
    </Panel>
  )
}

export const ribbonWord = clsx(
  'shrink-0 border-l border-felt-line px-3 text-[0.844rem] font-semibold whitespace-nowrap',
  'hover:bg-felt-line data-[state=open]:bg-felt-line max-md:min-h-11 max-md:grow max-md:px-2.5',
)

import { useState, type ReactNode } from 'react'
import { useTranslation } from 'react-i18next'
import type { SittingRow } from '../contract.generated'
import { clock } from '../i18n'
import { useNow } from '../live/time'
import { Panel } from '../ui/Panel'

export function RibbonTitle({ sitting }: { sitting: SittingRow }) {
  const { t } = useTranslation()
  const now = useNow()
  return (
    <div className="flex min-w-44 shrink flex-col justify-center overflow-hidden px-4 whitespace-nowrap lg:max-w-[388px]">
      <p className="overflow-hidden font-serif text-[18px] leading-tight font-semibold text-ellipsis">{sitting.title}</p>
      <p className="overflow-hidden text-[12.5px] text-ellipsis text-on-felt2">
        {sitting.phase === 'prepare' ? t('prepare.title') : t('ribbon.inSession')}{' '}
        <b className="font-semibold text-on-felt">{clock(now - sitting.openedAt)}</b>
        {sitting.hostName && ` · ${t('ribbon.ledBy', { host: sitting.hostName })}`}
      </p>
    </div>
  )
}

interface ItemProps {
  label: string
  value: string
  title: string
  /** What is unusual is filled. */
  unusual?: boolean
  children: ReactNode | ((close: () => void) => ReactNode)
  open?: boolean
  onOpenChange?: (open: boolean) => void
}

/** A sentence of the session's state, which is its own control. */
export function RibbonItem({ label, value, title, unusual = false, children, open, onOpenChange }: ItemProps) {
  const [own, setOwn] = useState(false)
  const isOpen = open ?? own
  const change = onOpenChange ?? setOwn
  return (
    <Panel
      title={title}
      open={isOpen}
      onOpenChange={change}
      trigger={
        <button
          className={`group flex shrink-0 flex-col justify-center border-l px-3.5 text-left whitespace-nowrap ${unusual ? 'border-brass bg-brass-soft text-ink' : 'border-felt-line hover:bg-felt-line data-[state=open]:bg-felt-line'}`}
        >
          <span
            className={`text-[11.5px] ${unusual ? 'text-brass-ink' : 'text-on-felt2 group-hover:text-on-felt group-data-[state=open]:text-on-felt'}`}
          >
            {label}
          </span>
          <span className="text-[13.5px] font-semibold">{value}</span>
        </button>
      }
    >
      {typeof children === 'function' ? children(() => change(false)) : children}
    </Panel>
  )
}

import type { ReactNode } from 'react'
import { useTranslation } from 'react-i18next'
import { ScreenTitle } from './ScreenTitle'

interface Props {
  title: string
  spine?: 'felt' | 'brass' | 'brick' | 'moss'
  children: ReactNode
}

const spines = { felt: 'border-l-felt', brass: 'border-l-brass', brick: 'border-l-brick', moss: 'border-l-moss' }

/** A page with one thing to say: like one strip taken off the board and laid on the desk. */
export function Placard({ title, spine = 'felt', children }: Props) {
  const { t } = useTranslation()
  return (
    <div className="flex min-h-dvh flex-col">
      <header className="bg-felt px-4 py-3 font-serif text-[1.125rem] font-semibold text-on-felt">{t('product')}</header>
      <main className="mx-auto flex w-full max-w-xl flex-1 flex-col justify-center px-4 py-8">
        <section className={`border border-l-8 border-line bg-paper px-6 py-7 ${spines[spine]}`}>
          <ScreenTitle title={title} className="font-serif text-[1.625rem] leading-tight font-semibold" />
          <div className="mt-3 flex flex-col gap-3 text-[1rem] leading-relaxed">{children}</div>
        </section>
      </main>
    </div>
  )
}

/** The bench's own words, set apart from ours. */
export function Words({ by, children }: { by: string; children: string }) {
  return (
    <figure className="border-l-2 border-brass pl-4">
      <figcaption className="text-[0.875rem] text-ink2">{by}</figcaption>
      <blockquote className="font-serif text-[1.125rem] whitespace-pre-line">{children}</blockquote>
    </figure>
  )
}

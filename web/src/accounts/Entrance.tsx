import type { ReactNode } from 'react'
import { useTranslation } from 'react-i18next'
import { LanguageChoice } from '../settings/LanguageChoice'
import { ScreenTitle } from '../ui/ScreenTitle'

/** The frame of the pages that lead into an account. */
export function Entrance({ title, children }: { title: string; children: ReactNode }) {
  const { t } = useTranslation()
  return (
    <main className="grid min-h-dvh grid-cols-1 max-md:content-start md:grid-cols-[minmax(0,1fr)_minmax(380px,1fr)]">
      <div className="flex flex-col justify-end bg-felt p-8 text-on-felt max-md:py-5">
        <p className="font-serif text-[2.5rem] leading-none font-semibold">{t('product')}</p>
        <p className="mt-3 max-w-80 text-[1.062rem] text-on-felt2">{t('tagline')}</p>
        <div aria-hidden className="mt-10 flex max-w-96 flex-col gap-1.5 max-md:hidden">
          {['border-l-brass', 'border-l-brass', 'border-l-seat', 'border-l-seat', 'border-l-seat'].map((spine, i) => (
            <span key={i} className={`h-9 border-l-[5px] bg-felt-line ${spine}`} style={{ width: `${100 - i * 9}%` }} />
          ))}
        </div>
      </div>
      <div className="m-auto flex w-full max-w-[26rem] flex-col gap-4 p-8 max-md:py-5">
        <p className="self-end">
          <LanguageChoice />
        </p>
        <ScreenTitle key={title} title={title} className="font-serif text-[1.625rem] leading-tight font-semibold" />
        {children}
      </div>
    </main>
  )
}

import { clsx } from 'clsx'
import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { PollRow } from '../contract.generated'
import { Button } from '../ui/Button'
import { ResultBars } from './ResultBars'
import { titleOf } from './words'

/** A result that the bench shows to all. Each can put it aside for oneself. */
export default function ShownResult({ poll }: { poll: PollRow }) {
  const { t } = useTranslation()
  const [aside, setAside] = useState(false)
  if (!poll.result || aside) return null
  return (
    <section
      aria-label={t('polls.result')}
      className={clsx(
        'flex shrink-0 flex-col max-md:order-first md:max-h-[45dvh]',
        'gap-1.5 overflow-y-auto border border-l-[5px] border-line border-l-moss bg-raised px-4 py-2.5',
      )}
    >
      <div className="flex items-start gap-3">
        <h2 className="min-w-0 flex-1 font-serif text-[1.062rem] leading-snug font-semibold break-words">
          {titleOf(t, poll.form)}
        </h2>
        <Button small onClick={() => setAside(true)}>
          {t('polls.aside')}
        </Button>
      </div>
      <ResultBars form={poll.form} result={poll.result} />
    </section>
  )
}

import { useEffect, type ReactNode } from 'react'
import { useTranslation } from 'react-i18next'
import type { ExhibitRow, MeRow } from '../contract.generated'
import { wish } from '../live/connection'
import type { Sitting } from '../live/store'
import { Button } from '../ui/Button'

/** What is lent, for whoever lent it, may drive, or could end it. It stays in sight as long as it is so. */
export function LentBanner({ me, sitting }: { me: MeRow; sitting: Sitting }) {
  const { t } = useTranslation()
  const lent = [...me.exhibits, ...sitting.shelf.exhibits].find((one) => one.loan !== null)
  const mine = lent?.by === me.seat
  const drives = lent?.loan?.to === me.seat
  useTakesBackByAnyKey(mine && lent?.loan?.taken === true)
  if (!lent?.loan) return null
  const end = () => void wish({ do: 'endLoan' })
  const words = { driver: lent.loan.toName || t('files.somebody'), letter: lent.letter, owner: lent.byName }
  if (mine)
    return (
      <Banner title={t(lent.loan.taken ? 'lending.theyDrive' : 'lending.theyMay', words)}>
        <Button look="primary" onClick={end}>
          {t('lending.takeBack')}
        </Button>
      </Banner>
    )
  if (drives) return <Driver lent={lent} words={words} end={end} />
  if (!me.may.includes('keepExhibits')) return null
  return (
    <Banner title={t('lending.another', words)}>
      <Button onClick={end}>{t('lending.end')}</Button>
    </Banner>
  )
}

function Driver({ lent, words, end }: { lent: ExhibitRow; words: Record<string, string>; end: () => void }) {
  const { t } = useTranslation()
  return lent.loan!.taken ? (
    <Banner title={t(lent.held ? 'lending.held' : 'lending.youDrive', words)}>
      <Button onClick={end}>{t('lending.giveBack')}</Button>
    </Banner>
  ) : (
    <Banner title={t('lending.youMay', words)}>
      <Button look="primary" onClick={() => void wish({ do: 'takeControls' })}>
        {t('lending.take')}
      </Button>
      <Button onClick={end}>{t('lending.no')}</Button>
    </Banner>
  )
}

function Banner({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section
      role="alert"
      className="flex flex-wrap items-center gap-x-4 gap-y-2 border border-l-[5px] border-line border-l-brass bg-brass-soft px-4 py-2"
    >
      <h2 className="min-w-48 flex-1 font-serif text-[1rem] leading-snug font-semibold">{title}</h2>
      {children}
    </section>
  )
}

/** While somebody drives one's screen, any key here takes it back, before it does anything else. */
function useTakesBackByAnyKey(on: boolean) {
  useEffect(() => {
    if (!on) return
    const take = (event: KeyboardEvent) => {
      event.preventDefault()
      event.stopPropagation()
      void wish({ do: 'endLoan' })
    }
    window.addEventListener('keydown', take, { capture: true })
    return () => window.removeEventListener('keydown', take, { capture: true })
  }, [on])
}

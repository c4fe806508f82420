import { useTranslation } from 'react-i18next'
import type { HandoutRow, MeRow } from '../contract.generated'
import { wish } from '../live/connection'
import { Button } from '../ui/Button'
import { printFile, takeFile, useFetching } from './fetching'
import { sizeInWords } from './size'

/** Files that somebody hands out and one has not answered yet, and those that are on their way here. */
export function OfferedFiles({ me }: { me: MeRow }) {
  const { t } = useTranslation()
  const coming = useFetching((state) => state.files)
  const asks = me.handouts.filter((one) => one.state === 'offered' || coming[one.number] !== undefined)
  if (asks.length === 0) return null
  return (
    <section aria-label={t('files.received')} className="flex max-h-56 flex-col gap-1 overflow-auto">
      {asks.map((one) => (
        <Offered key={one.number} handout={one} />
      ))}
    </section>
  )
}

function Offered({ handout }: { handout: HandoutRow }) {
  const { t } = useTranslation()
  const coming = useFetching((state) => state.files[handout.number])
  const words = { name: handout.byName || t('files.somebody'), file: handout.name }
  return (
    <section
      role={coming ? undefined : 'alert'}
      className="flex flex-wrap items-center gap-x-4 gap-y-2 border border-l-[5px] border-line border-l-felt bg-felt-soft px-4 py-2"
    >
      <div className="min-w-48 flex-1">
        <h2 className="font-serif text-[1rem] leading-snug font-semibold [overflow-wrap:anywhere]">
          {t(handout.toAll ? 'files.offers' : 'files.offersToYou', words)}
        </h2>
        <p className="text-[0.812rem] text-ink2">
          {t(`files.sort.${handout.sort}`)}, {sizeInWords(handout.size)}
          {handout.sort === 'other' && <b className="font-semibold text-brick"> {t('files.careful')}</b>}
        </p>
      </div>
      {coming ? <Coming handout={handout} /> : <Answers handout={handout} />}
    </section>
  )
}

function Answers({ handout }: { handout: HandoutRow }) {
  const { t } = useTranslation()
  return (
    <>
      {handout.prints && handout.sort !== 'other' && (
        <Button look="primary" onClick={() => void printFile(handout)}>
          {t('files.print')}
        </Button>
      )}
      <Button look={handout.prints ? 'plain' : 'primary'} onClick={() => void takeFile(handout)}>
        {t(handout.prints ? 'files.saveInstead' : 'files.take')}
      </Button>
      <Button onClick={() => void wish({ do: 'refuseFile', handout: handout.number })}>{t('files.refuse')}</Button>
    </>
  )
}

/** How far it has come, and how it is stopped or taken up again. */
export function Coming({ handout }: { handout: HandoutRow }) {
  const { t } = useTranslation()
  const coming = useFetching((state) => state.files[handout.number])
  if (!coming) return null
  return (
    <span className="flex min-w-56 flex-1 flex-wrap items-center gap-2 text-[0.844rem]">
      {coming.failed ? (
        <span role="alert" className="flex-1 font-medium text-brick">
          {coming.failed}
        </span>
      ) : (
        <progress
          aria-label={coming.came === null ? t('files.printing') : t('files.comes', { file: handout.name })}
          max={1}
          {...(coming.came !== null && { value: coming.came })}
          className="h-2 flex-1 accent-felt"
        />
      )}
      {coming.failed && (
        <Button small look="primary" onClick={() => void takeFile(handout)}>
          {t('files.tryAgain')}
        </Button>
      )}
      <Button small onClick={coming.stop}>
        {t(coming.failed ? 'files.dismiss' : 'files.stop')}
      </Button>
    </span>
  )
}

import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import { door } from '../api/client'
import type { HandoutRow, HandoutRules, MeRow } from '../contract.generated'
import { Brought } from '../exhibits/Brought'
import { wish } from '../live/connection'
import { isHere } from '../rooms/bays'
import { useLive, type Sitting } from '../live/store'
import { RibbonItem, RibbonWord } from '../sittings/RibbonItem'
import { Button } from '../ui/Button'
import { Field, Tick } from '../ui/Field'
import { FileButton } from '../ui/FileButton'
import { printFile, takeFile, useFetching } from './fetching'
import { handOut } from './handing'
import { Coming } from './OfferedFiles'
import { PaperList } from './PaperList'
import { sizeInWords } from './size'
import { useKeep } from './useKeep'

interface Props {
  me: MeRow
  sitting: Sitting
  link: string
}

/** The papers and the files that are handed out, in the ribbon of those who are not on the bench, where there is anything. */
export function FilesItem({ me, sitting, link }: Props) {
  const { t } = useTranslation()
  const papers = useQuery({ queryKey: ['papers', link], queryFn: () => door.papers(link), refetchInterval: 60_000 })
  const count = papers.data?.length ?? 0
  const mine = me.handouts.filter((one) => one.state !== 'own').length
  if (count === 0 && me.handouts.length === 0 && !me.may.includes('handOut')) return null
  const value = [
    ...(count > 0 ? [t('papers.count', { count })] : []),
    ...(mine > 0 ? [t('files.forYou', { count: mine })] : []),
  ].join(', ')
  return (
    <RibbonItem label={t('files.title')} value={value || t('files.hint')} title={t('files.title')} medium>
      <Files me={me} sitting={sitting} link={link} />
    </RibbonItem>
  )
}

/** The same for the bench, as a word. */
export function FilesWord(props: Props) {
  const { t } = useTranslation()
  return (
    <RibbonWord word={t('files.word')} title={t('files.title')} medium>
      <Files {...props} />
    </RibbonWord>
  )
}

function Files({ me, sitting, link }: Props) {
  const { t } = useTranslation()
  const received = me.handouts.filter((one) => one.state !== 'own')
  const given = me.handouts.filter((one) => one.state === 'own')
  const keeps = me.may.includes('keepPapers')
  return (
    <div className="flex flex-col gap-4">
      {me.may.includes('handOut') && <HandOutForm me={me} rules={sitting.files} />}
      <Brought use="handout" />
      {received.length > 0 && <List title={t('files.received')} handouts={received} keeps={keeps} link={link} />}
      {given.length > 0 && <List title={t('files.given')} handouts={given} keeps={keeps} link={link} />}
      {received.length + given.length === 0 && <p className="text-[0.844rem] text-ink2">{t('files.nothing')}</p>}
      <section>
        <h3 className="mb-1 font-serif text-[0.938rem] font-semibold">{t('papers.title')}</h3>
        <PaperList link={link} />
      </section>
      {keeps && <Rules rules={sitting.files} />}
    </div>
  )
}

function HandOutForm({ me, rules }: { me: MeRow; rules: HandoutRules }) {
  const { t } = useTranslation()
  const seats = useLive((state) => state.seats)
  const [to, setTo] = useState('')
  const [prints, setPrints] = useState(false)
  const people = [...seats.values()]
    .filter((seat) => isHere(seat, me) && seat.id !== me.seat)
    .sort((a, b) => a.name.localeCompare(b.name))
  const kinds = (['documents', 'pictures', 'others'] as const)
    .filter((kind) => rules[kind])
    .map((kind) => t(`files.kind.${kind}`))
  const give = (file: File) => void handOut(file, to === '' ? null : Number(to), prints)
  return (
    <section
      aria-label={t('files.handOut')}
      className="flex flex-col gap-2"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault()
        for (const file of event.dataTransfer.files) give(file)
      }}
    >
      <h3 className="font-serif text-[0.938rem] font-semibold">{t('files.handOut')}</h3>
      <div className="flex flex-wrap items-center gap-3">
        <label className="flex items-center gap-1.5 text-[0.844rem]">
          {t('files.to')}
          <select
            value={people.some((seat) => String(seat.id) === to) ? to : ''}
            onChange={(event) => setTo(event.target.value)}
            className="min-h-9 max-w-48 rounded-sm border border-edge bg-raised px-1"
          >
            <option value="">{t('files.everyone')}</option>
            {people.map((seat) => (
              <option key={seat.id} value={seat.id}>
                {seat.name}
              </option>
            ))}
          </select>
        </label>
        <FileButton label={t('files.choose')} accept="" onFile={give} />
      </div>
      <Tick label={t('files.prints')} checked={prints} onChange={(event) => setPrints(event.target.checked)} />
      <p className="text-[0.812rem] text-ink2">
        {t('files.handOutHint', { size: rules.largestMegabytes, kinds: kinds.join(', ') || t('files.kind.none') })}
      </p>
    </section>
  )
}

function List({
  title,
  handouts,
  keeps,
  link,
}: {
  title: string
  handouts: readonly HandoutRow[]
  keeps: boolean
  link: string
}) {
  return (
    <section aria-label={title}>
      <h3 className="mb-1 font-serif text-[0.938rem] font-semibold">{title}</h3>
      <ul className="flex flex-col divide-y divide-line border-y border-line">
        {handouts.map((one) => (
          <Row key={one.number} handout={one} keeps={keeps} link={link} />
        ))}
      </ul>
    </section>
  )
}

function Row({ handout, keeps, link }: { handout: HandoutRow; keeps: boolean; link: string }) {
  const { t } = useTranslation()
  const coming = useFetching((state) => state.files[handout.number])
  const own = handout.state === 'own'
  const file = { file: handout.name }
  const facts = [
    sizeInWords(handout.size),
    own
      ? handout.toAll
        ? t('files.toAll')
        : t('files.toOne', { name: handout.toName })
      : t('files.from', { name: handout.byName || t('files.somebody') }),
    ...(own ? [handout.count > 0 ? t('files.takenBy', { count: handout.count }) : t('files.notTakenYet')] : []),
    ...(handout.state === 'refused' ? [t('files.refused')] : []),
    ...(handout.room !== null ? [t('rooms.inRoom', { room: handout.room })] : []),
    ...(handout.kept ? [t('files.kept')] : []),
  ]
  const kept = useKeep(link)
  const keep = () => kept({ do: 'keepHandout', handout: handout.number }, handout.name)
  return (
    <li className="flex flex-col gap-1.5 py-2 text-[0.875rem]">
      <span className="font-semibold [overflow-wrap:anywhere]">{handout.name}</span>
      <span className="text-[0.781rem] text-ink2">{facts.join(' · ')}</span>
      {coming ? (
        <Coming handout={handout} />
      ) : (
        <span className="flex flex-wrap gap-2">
          {!own && (
            <Button
              small
              look={handout.state === 'offered' ? 'primary' : 'plain'}
              aria-label={t(handout.state === 'taken' ? 'files.againOf' : 'files.takeOf', file)}
              onClick={() => void takeFile(handout)}
            >
              {t(handout.state === 'taken' ? 'files.again' : 'files.take')}
            </Button>
          )}
          {!own && handout.prints && handout.sort !== 'other' && (
            <Button small aria-label={t('files.printOf', file)} onClick={() => void printFile(handout)}>
              {t('files.print')}
            </Button>
          )}
          {keeps && handout.room !== null && (
            <Button
              small
              aria-label={t('files.handOnOf', file)}
              onClick={() => void wish({ do: 'handOnFile', handout: handout.number })}
            >
              {t('files.handOn')}
            </Button>
          )}
          {keeps && handout.toAll && !handout.kept && (
            <Button small aria-label={t('files.keepOf', file)} onClick={() => void keep()}>
              {t('files.keep')}
            </Button>
          )}
          {(own || keeps) && (
            <Button
              small
              aria-label={t('files.endOf', file)}
              onClick={() => void wish({ do: 'endHandout', handout: handout.number })}
            >
              {t('files.end')}
            </Button>
          )}
        </span>
      )}
    </li>
  )
}

/** What may be handed out, for the bench to say. Each change acts at once. */
function Rules({ rules }: { rules: HandoutRules }) {
  const { t } = useTranslation()
  const set = (change: Partial<HandoutRules>) => void wish({ do: 'setHandoutRules', to: { ...rules, ...change } })
  return (
    <details className="border-t border-line pt-2 text-[0.875rem]">
      <summary className="cursor-pointer font-semibold">{t('files.rules')}</summary>
      <div className="mt-2 flex flex-col gap-2">
        <Field
          key={rules.largestMegabytes}
          label={t('files.largest')}
          type="number"
          min={1}
          max={100}
          defaultValue={rules.largestMegabytes}
          onBlur={(event) => {
            const largest = Number(event.target.value)
            if (Number.isInteger(largest) && largest >= 1 && largest <= 100) {
              if (largest !== rules.largestMegabytes) set({ largestMegabytes: largest })
            } else event.target.value = String(rules.largestMegabytes)
          }}
        />
        <Tick
          label={t('files.allowDocuments')}
          checked={rules.documents}
          onChange={(event) => set({ documents: event.target.checked })}
        />
        <Tick
          label={t('files.allowPictures')}
          checked={rules.pictures}
          onChange={(event) => set({ pictures: event.target.checked })}
        />
        <Tick label={t('files.allowOthers')} checked={rules.others} onChange={(event) => set({ others: event.target.checked })} />
      </div>
    </details>
  )
}

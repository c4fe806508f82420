import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import { canCapture } from '../admission/brought'
import { door } from '../api/client'
import type { ExhibitRow, MeRow, Ruling } from '../contract.generated'
import { useLayers } from '../drawing/store'
import { clock } from '../i18n'
import { wish } from '../live/connection'
import { isHere } from '../rooms/bays'
import { useLive, type Sitting } from '../live/store'
import { LendPanel } from '../lending/LendPanel'
import { useNow } from '../live/time'
import { media, useMedia } from '../media/engine'
import { RibbonItem } from '../sittings/RibbonItem'
import { Button } from '../ui/Button'
import { FileButton } from '../ui/FileButton'
import { Tick } from '../ui/Field'
import { useKeep } from '../handouts/useKeep'
import { AskToShow } from './AskToShow'
import { bringFile, bringPaper, shownKinds } from './bringing'
import { Brought } from './Brought'
import { ExhibitCanvas } from './ExhibitCanvas'
import { hasOnTop, openOnTop } from './OnTop'
import { closeScreen, holdScreen, openScreen } from './ownScreen'

/** How an exhibit is called: its title, or whose screen or sheet it is. */
export function useNameOf() {
  const { t } = useTranslation()
  return (one: ExhibitRow) =>
    one.title || t(one.kind === 'screen' ? 'exhibits.screenOf' : 'exhibits.sheetOf', { name: one.byName || t('files.somebody') })
}

/** What is shown to all; opens onto the shelf, and onto what one can put there. */
export function ShownItem({ me, sitting, link }: { me: MeRow; sitting: Sitting; link: string }) {
  const { t } = useTranslation()
  const [open, setOpen] = useState(false)
  const asking = useAsking(me)
  const exhibits = withOwn(sitting.shelf.exhibits, me)
  const shown = exhibits.filter((one) => one.shown)
  const mine = me.exhibits.find((one) => one.kind === 'screen' && one.by === me.seat)
  const shelf = exhibits.filter((one) => one !== mine && one.number !== mine?.number)
  const mayExhibit = me.may.includes('exhibit')
  if (!mayExhibit && shown.length === 0) return null
  const value =
    asking.length > 0
      ? t('exhibits.ask', { count: asking.length, name: asking[0]!.name })
      : shown.length > 0
        ? shown
            .map((one) => t(one.held ? 'exhibits.isHeld' : 'exhibits.is', { letter: one.letter, name: one.title || one.byName }))
            .join(' · ')
        : t(mine ? 'exhibits.onlyYou' : 'exhibits.nothing')
  return (
    <RibbonItem
      label={t('exhibits.shown')}
      value={value}
      title={t('exhibits.title')}
      medium
      unusual={mine !== undefined || asking.length > 0 || shown.some((one) => one.held)}
      open={open}
      onOpenChange={setOpen}
    >
      <div className="flex flex-col gap-4">
        {asking.map((seat) => (
          <p
            key={seat.id}
            className="flex flex-wrap items-center gap-2 border-l-4 border-brass bg-brass-soft px-2 py-1.5 text-[0.875rem]"
          >
            <span className="flex-1">{t('exhibits.asks', { name: seat.name })}</span>
            <Button small look="primary" onClick={() => void wish({ do: 'letShowOnce', seats: [seat.id], may: true })}>
              {t('exhibits.letOnce')}
            </Button>
            <Button small onClick={() => void wish({ do: 'except', seats: [seat.id], order: 'exhibit', may: true })}>
              {t('exhibits.letAlways')}
            </Button>
            <Button small onClick={() => void wish({ do: 'letShowOnce', seats: [seat.id], may: false })}>
              {t('exhibits.letNot')}
            </Button>
          </p>
        ))}
        {mine && <OwnScreen exhibit={mine} others={shown.some((one) => one.number !== mine.number)} />}
        {mayExhibit && <OpenNew me={me} link={link} screen={!mine} opened={setOpen} />}
        <AskToShow me={me} />
        <Brought use="shelf" />
        {shelf.length > 0 && (
          <ul aria-label={t('exhibits.shelf')} className="flex flex-col divide-y divide-line border-t border-line">
            {shelf.map((one) => (
              <OnShelf
                key={one.number}
                exhibit={one}
                me={me}
                link={link}
                others={shown.some((other) => other.number !== one.number)}
              />
            ))}
          </ul>
        )}
      </div>
    </RibbonItem>
  )
}

/** Those that may be known, and one's own beside them. */
function withOwn(seen: readonly ExhibitRow[], me: MeRow): ExhibitRow[] {
  const numbers = new Set(seen.map((one) => one.number))
  return [...seen, ...me.exhibits.filter((one) => !numbers.has(one.number))].sort(
    (a, b) => Number(b.shown) - Number(a.shown) || a.number - b.number,
  )
}

/** Who asks the bench for leave to show something, who asked first before the others. */
function useAsking(me: MeRow) {
  const seats = useLive((state) => state.seats)
  if (me.viewer !== 'bench') return []
  return [...seats.values()]
    .filter((seat) => seat.note?.wantsToShow)
    .sort((a, b) => (a.note?.wantsToShow ?? 0) - (b.note?.wantsToShow ?? 0))
}

/** What can be put on the shelf: one's screen, a file, a sheet, a paper of the session. */
function OpenNew({ me, link, screen, opened }: { me: MeRow; link: string; screen: boolean; opened: (open: boolean) => void }) {
  const { t } = useTranslation()
  const [ruling, setRuling] = useState<Ruling>('plain')
  const papers = useQuery({ queryKey: ['papers', link], queryFn: () => door.papers(link) })
  return (
    <section
      aria-label={t('exhibits.openNew')}
      className="flex flex-col gap-2"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault()
        for (const file of event.dataTransfer.files) void bringFile(file)
      }}
    >
      <div className="flex flex-wrap items-center gap-2">
        {screen && (
          <Button look="primary" disabled={!canCapture} onClick={() => void openScreen().then((done) => opened(done))}>
            {t('exhibits.open')}
          </Button>
        )}
        <FileButton label={t('exhibits.openFile')} accept={shownKinds} onFile={(file) => void bringFile(file)} />
        <span className="flex items-center gap-1">
          <Button onClick={() => void wish({ do: 'openSheet', title: '', ruling })}>{t('exhibits.openSheet')}</Button>
          <select
            aria-label={t('exhibits.ruling')}
            value={ruling}
            onChange={(event) => setRuling(event.target.value as Ruling)}
            className="min-h-9 rounded-sm border border-edge bg-raised px-1 text-[0.875rem]"
          >
            {(['plain', 'ruled', 'squared'] as const).map((one) => (
              <option key={one} value={one}>
                {t(`exhibits.rulings.${one}`)}
              </option>
            ))}
          </select>
        </span>
      </div>
      <p className="text-[0.812rem] text-ink2">{t(canCapture ? 'exhibits.openHint' : 'exhibits.cannot')}</p>
      {me.may.includes('exhibit') && (papers.data?.length ?? 0) > 0 && (
        <div className="text-[0.844rem]">
          <h3 className="mb-1 font-semibold">{t('papers.title')}</h3>
          <ul className="flex max-h-32 flex-col gap-1 overflow-auto">
            {papers.data!.map((paper) => (
              <li key={paper.id} className="flex items-center gap-2">
                <span className="flex-1 overflow-hidden text-ellipsis whitespace-nowrap">{paper.name}</span>
                <Button
                  small
                  aria-label={t('exhibits.openPaper', { name: paper.name })}
                  onClick={() => void bringPaper(paper.id)}
                >
                  {t('exhibits.openIt')}
                </Button>
              </li>
            ))}
          </ul>
        </div>
      )}
    </section>
  )
}

function OwnScreen({ exhibit, others }: { exhibit: ExhibitRow; others: boolean }) {
  const { t } = useTranslation()
  const now = useNow()
  const smooth = useMedia((state) => state.screenIsSmooth)
  const hasSound = useMedia((state) => state.screenHasSound)
  const sounds = useMedia((state) => state.screenSounds)
  const state = exhibit.shown
    ? t(exhibit.held ? 'exhibits.heldForAll' : 'exhibits.allSee', { time: clock(now - exhibit.since) })
    : t('exhibits.youSee')
  return (
    <section aria-label={t('exhibits.mine')} className="flex flex-col gap-2">
      <div className={`aspect-video border-2 bg-dusk ${exhibit.shown && !exhibit.held ? 'border-moss' : 'border-brass'}`}>
        <ExhibitCanvas exhibit={exhibit} />
      </div>
      <p role="status" className="text-[0.875rem] font-semibold">
        {state}
      </p>
      <div className="flex flex-wrap gap-2">
        {exhibit.shown ? (
          <>
            <Button look="primary" onClick={() => void holdScreen(!exhibit.held)}>
              {t(exhibit.held ? 'exhibits.goOn' : 'exhibits.hold')}
            </Button>
            <Button onClick={() => void wish({ do: 'takeDown', exhibit: exhibit.number })}>{t('exhibits.takeDown')}</Button>
          </>
        ) : (
          <ShowButtons exhibit={exhibit} others={others} />
        )}
        <Button onClick={() => void closeScreen()}>{t('exhibits.close')}</Button>
        {hasOnTop && <Button onClick={() => void openOnTop(t('exhibits.mine'))}>{t('exhibits.onTop')}</Button>}
      </div>
      <LendPanel exhibit={exhibit} />
      {hasSound && (
        <Tick label={t('exhibits.sounds')} checked={sounds} onChange={(event) => media.letScreenSound(event.target.checked)} />
      )}
      <Tick label={t('exhibits.smooth')} checked={smooth} onChange={(event) => media.favourMovement(event.target.checked)} />
    </section>
  )
}

function ShowButtons({ exhibit, others, small = false }: { exhibit: ExhibitRow; others: boolean; small?: boolean }) {
  const { t } = useTranslation()
  const called = useNameOf()(exhibit)
  const named = (text: string) => (small ? { 'aria-label': `${text}: ${exhibit.letter} ${called}` } : {})
  return (
    <>
      <Button
        look="primary"
        small={small}
        {...named(t('exhibits.show'))}
        onClick={() => void wish({ do: 'showExhibit', exhibit: exhibit.number, beside: false })}
      >
        {t('exhibits.show')}
      </Button>
      {others && (
        <Button
          small={small}
          {...named(t('exhibits.beside'))}
          onClick={() => void wish({ do: 'showExhibit', exhibit: exhibit.number, beside: true })}
        >
          {t('exhibits.beside')}
        </Button>
      )}
    </>
  )
}

function OnShelf({ exhibit, me, link, others }: { exhibit: ExhibitRow; me: MeRow; link: string; others: boolean }) {
  const { t } = useTranslation()
  const name = useNameOf()(exhibit)
  const [asks, setAsks] = useState(false)
  const drawn = useLayers((state) => state.layers.get(exhibit.number)?.marks.size ?? 0)
  const { pages } = exhibit
  const keeps = me.may.includes('keepExhibits')
  const own = exhibit.by === me.seat
  const ready = !pages || pages.count > 0
  const called = { letter: exhibit.letter, name: exhibit.title || exhibit.byName }
  const state = pages?.flaw
    ? t(`exhibits.flaw.${pages.flaw}`)
    : !ready
      ? t('exhibits.making')
      : t(exhibit.shown ? (exhibit.held ? 'exhibits.isHeldNow' : 'exhibits.isShown') : 'exhibits.isUnseen')
  const mayKeep = me.may.includes('keepPapers') && pages !== null && ready && !pages.flaw
  const kept = useKeep(link)
  const keep = () => kept({ do: 'keepExhibit', exhibit: exhibit.number }, `${exhibit.letter} ${name}`)
  const close = () =>
    drawn > 0 && !asks ? setAsks(true) : void wish({ do: 'closeExhibit', exhibit: exhibit.number }).then(() => setAsks(false))
  return (
    <li className="flex flex-col gap-1.5 py-2 text-[0.875rem]">
      <span className="flex flex-wrap items-center gap-2">
        <b className="rounded-sm bg-felt px-1.5 text-[0.812rem] text-on-felt">{exhibit.letter}</b>
        <span className="min-w-32 flex-1">
          <span className="block font-semibold">{name}</span>
          <span
            className={`block text-[0.781rem] ${pages?.flaw ? 'font-medium text-brick' : 'text-ink2'}`}
            role={pages?.flaw ? 'alert' : undefined}
          >
            {state}
            {exhibit.title && exhibit.byName && !own && ` · ${exhibit.byName}`}
            {exhibit.room !== null && ` · ${t('rooms.inRoom', { room: exhibit.room })}`}
            {pages && pages.count > 1 && ` · ${t('exhibits.pages', { count: pages.count })}`}
          </span>
        </span>
        {/* They stay together when there is no room beside the name. */}
        <span className="ml-auto flex flex-wrap justify-end gap-2">
          {ready && !exhibit.shown && !pages?.flaw && (own || (keeps && pages)) && (
            <ShowButtons small exhibit={exhibit} others={others} />
          )}
          {(own || keeps) && exhibit.shown && (
            <Button
              small
              aria-label={t('exhibits.takeDownOf', called)}
              onClick={() => void wish({ do: 'takeDown', exhibit: exhibit.number })}
            >
              {t('exhibits.takeDown')}
            </Button>
          )}
          {mayKeep && (
            <Button small aria-label={t('exhibits.keepOf', called)} onClick={() => void keep()}>
              {t('files.keep')}
            </Button>
          )}
          {(own || keeps) && (
            <Button small aria-label={t('exhibits.closeOf', called)} onClick={close}>
              {t('exhibits.close')}
            </Button>
          )}
        </span>
      </span>
      {asks && (
        <span
          role="alertdialog"
          aria-label={t('exhibits.closeAsks', { count: drawn })}
          className="flex flex-wrap items-center gap-2 bg-brass-soft px-2 py-1"
        >
          <span className="flex-1">{t('exhibits.closeAsks', { count: drawn })}</span>
          {mayKeep && (
            <Button small look="primary" onClick={() => void keep().then((done) => (done ? close() : undefined))}>
              {t('exhibits.keepAndClose')}
            </Button>
          )}
          <Button small look="end" onClick={close}>
            {t('exhibits.closeAll')}
          </Button>
          <Button small onClick={() => setAsks(false)}>
            {t('exhibits.keepOpen')}
          </Button>
        </span>
      )}
      {pages?.standIns?.map((one) => (
        <span key={one.font} className="text-[0.781rem] text-brass-ink">
          {t('exhibits.standIn', { font: one.font, for: one.for })}
        </span>
      ))}
      {pages && ready && pages.count > 1 && exhibit.shown && (own || keeps || pages.holder === me.seat) && (
        <Handing exhibit={exhibit} me={me} mayFree={own || keeps} />
      )}
    </li>
  )
}

/** To whom the paging is handed, and whether each may page alone. */
function Handing({ exhibit, me, mayFree }: { exhibit: ExhibitRow; me: MeRow; mayFree: boolean }) {
  const { t } = useTranslation()
  const seats = useLive((state) => state.seats)
  const pages = exhibit.pages!
  const people = [...seats.values()].filter((seat) => isHere(seat, me)).sort((a, b) => a.name.localeCompare(b.name))
  return (
    <span className="flex flex-wrap items-center gap-x-4 gap-y-1">
      <label className="flex items-center gap-1.5 text-[0.812rem]">
        {t('exhibits.pagingWith')}
        <select
          value={pages.holder ?? ''}
          onChange={(event) => void wish({ do: 'handPaging', to: Number(event.target.value), exhibit: exhibit.number })}
          className="min-h-7 max-w-48 rounded-sm border border-edge bg-raised px-1"
        >
          {pages.holder === null && <option value="">{t('exhibits.pagingBench')}</option>}
          {people.map((seat) => (
            <option key={seat.id} value={seat.id}>
              {seat.id === me.seat ? t('exhibits.pagingMe') : seat.name}
            </option>
          ))}
        </select>
      </label>
      {mayFree && (
        <Tick
          label={t('exhibits.freeLook')}
          checked={pages.freeLook}
          onChange={(event) => void wish({ do: 'setFreeLook', on: event.target.checked, exhibit: exhibit.number })}
        />
      )}
    </span>
  )
}

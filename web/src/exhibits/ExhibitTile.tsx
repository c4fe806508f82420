import { clsx } from 'clsx'
import { lazy, Suspense, useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react'
import { useTranslation } from 'react-i18next'
import { exhibits } from '../api/client'
import type { ExhibitRow, MeRow } from '../contract.generated'
import { fetchLayer, useLayers } from '../drawing/store'
import { useTools } from '../drawing/tools'
import { currentSitting, markWish } from '../live/connection'
import { DriveSurface } from '../lending/DriveSurface'
import { Button } from '../ui/Button'
import { ExhibitCanvas, usePlace, useScreenSize } from './ExhibitCanvas'
import { closer, closest, moved, standing, wholeLook, type Size } from './look'
import { PageCanvas, PageText, sheetSize, usePage } from './PageCanvas'
import { PageLine } from './PageLine'
import { Paging } from './Paging'
import { useHand } from './useHand'
import { useLook } from './useLook'

const MarkSurface = lazy(() => import('../drawing/MarkSurface').then((file) => ({ default: file.MarkSurface })))
const MarkTools = lazy(() => import('../drawing/MarkTools').then((file) => ({ default: file.MarkTools })))

/** How large one may look at an exhibit by a button or a key; 1 is whole. */
const steps = [1, 1.5, 2, 3, 4, 6, closest]

/** May draw over it: by the orders, or because it is one's own sheet. */
const mayMark = (me: MeRow, exhibit: ExhibitRow) =>
  me.may.includes('mark') || me.exhibits.some((one) => one.number === exhibit.number && one.mayMark)

/** An exhibit as all see it: whole, whatever its shape, until one looks closer. */
export function ExhibitTile({ exhibit: seen, me }: { exhibit: ExhibitRow; me: MeRow }) {
  const { t } = useTranslation()
  // Of one's own, and of that whose pages one turns, one may know more than all.
  const exhibit = useMemo(() => {
    const mine = me.exhibits.find((one) => one.number === seen.number)
    return mine?.pages && seen.pages ? { ...seen, pages: { ...seen.pages, secret: mine.pages.secret } } : seen
  }, [seen, me.exhibits])
  const { pages } = exhibit
  const area = useRef<HTMLDivElement>(null)
  const place = usePlace(area)
  const screen = useRef<HTMLCanvasElement>(null)
  const screenSize = useScreenSize(screen, exhibit.kind === 'screen')
  const { look, page, change, turnTo, leads, mayTurn, apart, back } = useLook(exhibit, me)
  const { picture, page: shownPage, failed } = usePage(exhibit, page, look.scale)
  const wide = picture?.width ?? 0
  const high = picture?.height ?? 0
  const size: Size = useMemo(
    () =>
      exhibit.kind === 'screen'
        ? screenSize
        : exhibit.kind === 'sheet'
          ? sheetSize
          : wide > 0
            ? { width: 1600, height: (1600 * high) / wide }
            : sheetSize,
    [exhibit.kind, screenSize, wide, high],
  )
  const stand = useMemo(() => standing(look, place, size), [look, place, size])
  const draws = useTools((state) => state.on === exhibit.number) && mayMark(me, exhibit)
  const marked = useLayers((state) => (state.layers.get(exhibit.number)?.marks.size ?? 0) > 0)
  const sequence = useLayers((state) => state.layers.has(exhibit.number))
  // The marks of a page come with the page: whoever sees one page alone has to ask again when it is turned.
  const sees = exhibit.pages && exhibit.pages.secret === null ? exhibit.pages.at : 'all'
  const fetched = useRef<string | null>(null)
  useEffect(() => {
    const wanted = `${exhibit.number} ${sees}`
    if (sequence && fetched.current === wanted) return
    fetched.current = wanted
    void fetchLayer(currentSitting(), exhibit.number)
  }, [sequence, exhibit.number, sees])
  const nearer = (by: number, at = { x: place.width / 2, y: place.height / 2 }) =>
    change((now) => closer(now, now.scale * by, at, place, size))
  const step = (by: 1 | -1) => {
    const next = by > 0 ? steps.find((one) => one > look.scale + 0.01) : steps.findLast((one) => one < look.scale - 0.01)
    nearer((next ?? (by > 0 ? closest : 1)) / look.scale)
  }
  const shift = (dx: number, dy: number) => change((now) => moved(now, dx, dy, place, size))
  const hand = useHand(area, draws, nearer, shift, () =>
    change((now) =>
      now.scale > 1 ? { ...wholeLook, turn: now.turn } : closer(now, 2, { x: place.width / 2, y: place.height / 2 }, place, size),
    ),
  )
  const name =
    exhibit.title ||
    t(exhibit.kind === 'screen' ? 'exhibits.screenOf' : 'exhibits.sheetOf', { name: exhibit.byName || t('files.somebody') })
  const scaled = look.scale > 1.01
  const [line, setLine] = useState(false)
  const looksAhead = mayTurn && exhibit.kind === 'document' && pages !== null && pages.count > 1 && pages.secret !== null

  const onKeyDown = (event: KeyboardEvent) => {
    if (event.target !== event.currentTarget || event.altKey) return
    const way = 60
    const act = {
      '+': () => step(1),
      '-': () => step(-1),
      0: () => change((now) => ({ ...wholeLook, turn: now.turn })),
      PageDown: () => turnTo(page + 1),
      PageUp: () => turnTo(page - 1),
      Home: () => turnTo(1),
      End: () => turnTo(pages?.count ?? 1),
      ArrowRight: () => (scaled ? shift(-way, 0) : turnTo(page + 1)),
      ArrowLeft: () => (scaled ? shift(way, 0) : turnTo(page - 1)),
      ArrowDown: () => (scaled ? shift(0, -way) : turnTo(page + 1)),
      ArrowUp: () => (scaled ? shift(0, way) : turnTo(page - 1)),
    }[event.key]
    const undo = draws && (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z'
    if (undo) void markWish(exhibit.number, { mark: 'stepBack', again: event.shiftKey })
    else if (!act || event.ctrlKey || event.metaKey) return
    else act()
    event.preventDefault()
    event.stopPropagation()
  }
  const save = (how: 'savePicture' | 'saveDrawing') =>
    void import('../drawing/save').then((file) =>
      file[how](exhibit, page, size, picture ?? (exhibit.kind === 'screen' ? screen.current : null)),
    )
  const ready = exhibit.kind === 'screen' || exhibit.kind === 'sheet' || picture !== null
  return (
    <figure
      data-exhibit={exhibit.letter}
      data-page={pages ? page : undefined}
      data-drawn={shownPage ?? undefined}
      className={clsx('@container flex h-full flex-col border bg-raised', exhibit.held ? 'border-brass' : 'border-line')}
    >
      {/* It takes keys: pages are turned, and what is large is moved, without a mouse. */}
      {/* eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions */}
      <div
        ref={area}
        role="region"
        aria-label={name}
        // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex
        tabIndex={0}
        className={clsx(
          'relative min-h-0 flex-1 overflow-hidden bg-dusk',
          !draws && scaled && 'cursor-grab',
          scaled || draws ? 'touch-none' : 'touch-pan-y',
        )}
        onKeyDown={onKeyDown}
        {...hand}
      >
        {exhibit.kind === 'screen' ? (
          <div className="absolute" style={{ left: stand.left, top: stand.top, width: stand.width, height: stand.height }}>
            <ExhibitCanvas exhibit={exhibit} canvas={screen} />
            {exhibit.loan?.to === me.seat && exhibit.loan.taken && !exhibit.held && !draws && (
              <DriveSurface exhibit={exhibit.number} name={name} />
            )}
          </div>
        ) : (
          <PageCanvas
            picture={picture}
            stand={stand}
            size={size}
            place={place}
            ruling={exhibit.kind === 'sheet' ? (pages?.ruling ?? 'plain') : null}
            label={name}
          />
        )}
        {exhibit.kind === 'document' && <PageText exhibit={exhibit} page={page} />}
        {(draws || marked || sequence) && ready && place.width > 0 && (
          <Suspense fallback={null}>
            <MarkSurface
              exhibit={exhibit.number}
              page={page}
              stand={stand}
              place={place}
              size={size}
              draws={draws}
              self={me.seat}
              keeps={me.may.includes('keepExhibits')}
            />
          </Suspense>
        )}
        {!ready && (
          <p role="status" className="absolute inset-0 m-auto size-fit max-w-[80%] bg-raised px-4 py-2 text-[0.906rem]">
            {failed ? t('exhibits.pageFailed') : t('exhibits.pageComes')}
          </p>
        )}
        {ready && failed && (
          <p role="alert" className="absolute inset-x-0 bottom-0 bg-brick-soft px-3 py-1 text-[0.844rem] text-brick">
            {t('exhibits.pageFailed')}
          </p>
        )}
      </div>
      <figcaption
        className={clsx(
          'flex min-h-9 flex-wrap items-center gap-x-2 gap-y-1 px-2 py-0.5 text-[1rem] whitespace-nowrap',
          'max-md:flex-nowrap max-md:overflow-x-auto max-md:*:shrink-0',
        )}
      >
        <b className="rounded-sm bg-felt px-1.5 text-[0.812rem] text-on-felt">{exhibit.letter}</b>
        <span className="min-w-16 flex-1 basis-24 overflow-hidden max-md:grow-0 font-serif font-semibold text-ellipsis">
          {name}
        </span>
        {exhibit.title && <span className="text-[0.719rem] text-ink2 @max-3xl:hidden">{exhibit.byName}</span>}
        {exhibit.held && (
          <span className="rounded-sm bg-brass-soft px-1 text-[0.75rem] font-semibold text-brass-ink">{t('exhibits.held')}</span>
        )}
        {pages && pages.count > 0 && (
          <Paging
            exhibit={exhibit}
            me={me}
            page={page}
            turnTo={mayTurn ? turnTo : null}
            apart={apart}
            back={back}
            leads={leads}
          />
        )}
        <span className="ml-auto flex items-center gap-1.5 text-[0.781rem] text-ink2">
          {scaled && <span role="status">{t('settings.percent', { count: Math.round(look.scale * 100) })}</span>}
          <Button
            small
            aria-label={t(leads ? 'exhibits.furtherAll' : 'exhibits.smaller')}
            disabled={!scaled}
            onClick={() => step(-1)}
          >
            −
          </Button>
          <Button
            small
            aria-label={t(leads ? 'exhibits.closerAll' : 'exhibits.larger')}
            disabled={look.scale >= 8}
            onClick={() => step(1)}
          >
            +
          </Button>
          {looksAhead && (
            <Button small className="@max-xl:hidden" aria-pressed={line} onClick={() => setLine(!line)}>
              {t('exhibits.allPages')}
            </Button>
          )}
          {leads && exhibit.kind !== 'sheet' && (
            <Button small onClick={() => change((now) => ({ ...wholeLook, turn: (now.turn + 90) % 360 }))}>
              {t('exhibits.rotate')}
            </Button>
          )}
          {mayMark(me, exhibit) && (
            <Button
              small
              look={draws ? 'primary' : 'plain'}
              aria-pressed={draws}
              onClick={() => useTools.setState({ on: draws ? null : exhibit.number })}
            >
              {t('marks.draw')}
            </Button>
          )}
          <FullScreen area={area} />
        </span>
      </figcaption>
      {line && looksAhead && <PageLine exhibit={exhibit} page={page} turnTo={turnTo} />}
      {draws && (
        <Suspense fallback={null}>
          <MarkTools
            exhibit={exhibit.number}
            page={page}
            keeps={me.may.includes('keepExhibits')}
            save={{
              picture: () => save('savePicture'),
              drawing: () => save('saveDrawing'),
              pages:
                pages && (leads || pages.secret !== null || exhibit.by === me.seat || me.may.includes('keepExhibits'))
                  ? exhibits.pagesAddress(currentSitting(), exhibit.number)
                  : null,
            }}
          />
        </Suspense>
      )}
    </figure>
  )
}

/** The exhibit alone on the whole screen, where the browser can. */
function FullScreen({ area }: { area: React.RefObject<HTMLElement | null> }) {
  const { t } = useTranslation()
  if (!document.fullscreenEnabled) return null
  return (
    <Button
      small
      className="@max-xl:hidden"
      onClick={() =>
        void area.current
          ?.closest('figure')
          ?.requestFullscreen()
          .catch(() => undefined)
      }
    >
      {t('exhibits.fullScreen')}
    </Button>
  )
}

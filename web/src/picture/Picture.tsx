import { clsx } from 'clsx'
import { useEffect, useLayoutEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react'
import { useTranslation } from 'react-i18next'
import type { MeRow, SeatRow } from '../contract.generated'
import { useLive } from '../live/store'
import { useMedia } from '../media/engine'
import { useTools } from '../drawing/tools'
import { ExhibitTile } from '../exhibits/ExhibitTile'
import { rank } from '../people/rank'
import { isHere } from '../rooms/bays'
import { useSettings } from '../settings/store'
import { FadingSigns } from '../signs/FadingSigns'
import { Button } from '../ui/Button'
import { beside, even, front as inFront, type Tile as Box } from './arrange'
import { Tile } from './Tile'
import { useArrangement, useFrontSeats, useView } from './view'

const gap = 8
const caption = 28
const smallest = 96
/** More tiles than this on one screen help nobody; the rest is counted. */
const most = 30

/** What is seen of people, in the chosen arrangement. */
export function Picture({ me }: { me: MeRow }) {
  const narrow = useNarrow()
  const { t } = useTranslation()
  const seats = useLive((state) => state.seats)
  const speaker = useMedia((state) => state.speaker)
  const turn = useLive((state) => state.sitting?.floor.turn?.seat ?? null)
  const arrangement = useArrangement()
  const chosen = useFrontSeats()
  const { hidesNames, hidesCameraless } = useView()
  const showsSigns = useSettings((state) => state.showsSigns)
  const shelf = useLive((state) => state.sitting?.shelf)
  const exhibits = useMemo(() => shelf?.exhibits.filter((one) => one.shown) ?? [], [shelf])
  const [area, size] = useSize()
  const people = useMemo(
    () => [...seats.values()].filter((seat) => isHere(seat, me) && !(seat.listens && seat.id !== me.seat)),
    [seats, me],
  )
  const speaking = useFront(people, turn !== null && turn !== me.seat ? turn : speaker, me.seat)
  const front = useMemo(() => {
    const here = chosen.filter((id) => people.some((seat) => seat.id === id))
    const wanted = arrangement === 'pair' ? 2 : 1
    const filled = [...here, ...(here.length < wanted && speaking !== null && !here.includes(speaking) ? [speaking] : [])]
    const second = people.find((seat) => !filled.includes(seat.id) && seat.id !== me.seat && seat.cameraOn)
    return filled.length < wanted && second ? [...filled, second.id] : filled
  }, [chosen, people, arrangement, speaking, me.seat])
  const ordered = useMemo(() => {
    const wanted = hidesCameraless ? people.filter((seat) => seat.cameraOn || front.includes(seat.id)) : people
    return order(wanted, arrangement === 'even' ? chosen : front, me.seat)
  }, [people, front, chosen, arrangement, me.seat, hidesCameraless])
  // What is shown is large, and people stand beside it.
  const inLine = exhibits.length > 0 && (narrow || arrangement === 'exhibit')
  const large = inLine || arrangement === 'even' ? 0 : Math.max(1, Math.min(front.length, ordered.length))
  // On a phone it stands above the people's pages.
  const drawn = useTools((state) => exhibits.filter((one) => one.number === state.on).length)
  const above = narrow && exhibits.length > 0 ? exhibitHeight(size, exhibits.length, drawn) : 0
  const [exhibitBoxes, boxes] = useMemo(() => {
    const { width, height } = size
    if (exhibits.length > 0 && narrow) {
      const high = Math.trunc(above / exhibits.length)
      return [exhibits.map((_, at) => ({ x: 0, y: at * high, width, height: high - gap })), []]
    }
    if (exhibits.length > 0 && !inLine)
      return beside(exhibits.length, Math.min(ordered.length, most), large, width, height, gap, caption, smallest)
    if (exhibits.length > 0) {
      const all = inFront(exhibits.length + ordered.length, exhibits.length, width, height, gap, caption, smallest)
      return [all.slice(0, exhibits.length), all.slice(exhibits.length)]
    }
    return large > 0
      ? [[], inFront(ordered.length, large, width, height, gap, caption, smallest)]
      : [[], even(Math.min(ordered.length, most), width, height, gap, caption)]
  }, [exhibits, narrow, above, inLine, large, ordered.length, size])
  const hidden = narrow ? 0 : people.length - boxes.length
  useEffect(() => useView.setState({ hidden }), [hidden])
  const shown = withSelf(ordered, boxes.length, me.seat)
  return (
    <section aria-label={t('picture.label')} className="relative min-h-64 flex-1">
      {showsSigns && <FadingSigns />}
      <div ref={area} className="absolute inset-0">
        {exhibits.map(
          (exhibit, i) =>
            exhibitBoxes[i] && (
              <div key={exhibit.number} className="absolute" style={placeOf(exhibitBoxes[i])}>
                <ExhibitTile exhibit={exhibit} me={me} />
              </div>
            ),
        )}
        {/* Whoever draws on a phone needs the room, and the people come back with the end of it. */}
        {narrow && size.height - above > leastForPeople && (
          <div className="absolute inset-x-0 bottom-0" style={{ top: above }}>
            <Pages
              ordered={ordered}
              large={large}
              size={{ width: size.width, height: size.height - above }}
              me={me}
              named={!hidesNames}
            />
          </div>
        )}
        {(narrow ? [] : boxes).map((box, i) => {
          const seat = shown[i]
          return (
            seat && (
              <Placed
                key={seat.id}
                box={box}
                seat={seat}
                me={me}
                large={i < large && large < 3}
                named={!hidesNames}
                width={box.width}
                flat={i < large && box.width / (box.height - caption) > 1.9}
              />
            )
          )
        })}
        {/* Where people may not see each other, one's own row is not among those seen. */}
        {people.length === 1 && people[0]?.id === me.seat && (
          <div
            className={clsx(
              'absolute inset-x-0 bottom-10 mx-auto w-fit max-w-md border-l-4 border-brass bg-raised px-4 py-2',
              'text-center text-[0.906rem]',
            )}
          >
            <strong className="font-semibold">{t('picture.alone')}</strong> {me.viewer === 'bench' && t('picture.aloneHint')}
          </div>
        )}
      </div>
    </section>
  )
}

/** So many people stand on one page of a narrow picture. */
const perPage = 4

/** On a phone few people are seen, and large; the others come by swiping, or by the buttons. */
function Pages({
  ordered,
  large,
  size,
  me,
  named,
}: {
  ordered: readonly SeatRow[]
  large: number
  size: { width: number; height: number }
  me: MeRow
  named: boolean
}) {
  const { t } = useTranslation()
  const scroller = useRef<HTMLDivElement>(null)
  const [at, setAt] = useState(0)
  const pages = Array.from({ length: Math.max(1, Math.ceil(ordered.length / perPage)) }, (_, page) =>
    ordered.slice(page * perPage, (page + 1) * perPage),
  )
  const shown = Math.min(at, pages.length - 1)
  const height = size.height - (pages.length > 1 ? pager : 0)
  const go = (page: number) => scroller.current?.scrollTo({ left: page * size.width, behavior: 'smooth' })
  return (
    <>
      <div
        ref={scroller}
        className="flex snap-x snap-mandatory overflow-x-auto [scrollbar-width:none]"
        style={{ height }}
        onScroll={(event) => setAt(Math.round(event.currentTarget.scrollLeft / Math.max(1, event.currentTarget.clientWidth)))}
      >
        {pages.map((people, page) => {
          const front = page === 0 ? large : 0
          const boxes =
            front > 0
              ? inFront(people.length, front, size.width, height, gap, caption, smallest, Math.max(widest, size.width / 5))
              : even(people.length, size.width, height, gap, caption)
          return (
            <div key={page} className="relative size-full shrink-0 snap-center" aria-hidden={page !== shown}>
              {/* Only what is seen, and what a finger may bring in, is asked for. */}
              {Math.abs(page - shown) <= 1 &&
                boxes.map((box, i) => {
                  const seat = people[i]
                  return (
                    seat && (
                      <Placed
                        key={seat.id}
                        box={box}
                        seat={seat}
                        me={me}
                        large={i < front && front < 3}
                        named={named}
                        width={box.width}
                        flat={i < front && box.width / (box.height - caption) > 1.9}
                      />
                    )
                  )
                })}
            </div>
          )
        })}
      </div>
      {pages.length > 1 && (
        <div className="flex items-center justify-center gap-3 text-[0.844rem]" style={{ height: pager }}>
          <Button small disabled={shown === 0} onClick={() => go(shown - 1)}>
            {t('picture.pageBefore')}
          </Button>
          <span role="status">{t('picture.page', { page: shown + 1, of: pages.length })}</span>
          <Button small disabled={shown === pages.length - 1} onClick={() => go(shown + 1)}>
            {t('picture.pageAfter')}
          </Button>
        </div>
      )}
    </>
  )
}

/** How wide those in the row may be on a phone, where there are few, in pixels: so that a name has room. */
const widest = 120

/** Height of the line below the pages, in pixels. */
const pager = 36

const narrowPage = () => matchMedia('(max-width: 767px)')

const useNarrow = () =>
  useSyncExternalStore(
    (onChange) => {
      const query = narrowPage()
      query.addEventListener('change', onChange)
      return () => query.removeEventListener('change', onChange)
    },
    () => narrowPage().matches,
  )

/** Height of the line below an exhibit, and of the line of what one draws with, in pixels. */
const titleLine = 40

/** Below this height, in pixels, people are no use. */
const leastForPeople = 100

/** Of an exhibit's share of a phone's picture, in pixels: whole in its width, and people below it. */
const exhibitHeight = (size: { width: number; height: number }, count: number, drawn: number) =>
  Math.trunc(Math.min(size.height * (drawn > 0 ? 1 : 0.6), count * ((size.width * 9) / 16 + titleLine + gap) + drawn * titleLine))

const placeOf = (box: Box) => ({ left: box.x, top: box.y, width: box.width, height: box.height })

function Placed({ box, ...tile }: { box: Box } & Parameters<typeof Tile>[0]) {
  return (
    <div className="absolute" style={placeOf(box)}>
      <Tile {...tile} />
    </div>
  )
}

/** Who is large: who speaks, others than oneself; whoever spoke last stays; before anybody spoke, the host. */
function useFront(people: readonly SeatRow[], speaker: number | null, self: number): number | null {
  const [last, setLast] = useState<number | null>(null)
  if (speaker !== null && speaker !== self && speaker !== last) setLast(speaker)
  if (people.some((seat) => seat.id === last)) return last
  return (
    (people.find((seat) => seat.role === 'host' && seat.id !== self) ?? people.find((seat) => seat.id !== self) ?? people[0])
      ?.id ?? null
  )
}

/** Those in front first; then those with a camera, the bench and presenters before attendees; oneself last. */
function order(people: readonly SeatRow[], front: readonly number[], self: number): SeatRow[] {
  const place = new Map(front.map((id, at) => [id, at]))
  const weight = (seat: SeatRow) =>
    (place.has(seat.id) ? place.get(seat.id)! - 1000 : 0) +
    (seat.id === self ? 100 : 0) +
    (seat.cameraOn ? 0 : 20) +
    rank[seat.role]
  return [...people].sort((a, b) => weight(a) - weight(b) || a.id - b.id)
}

/** When not all find room, oneself takes the last place, so that one always sees what others see. */
function withSelf(ordered: readonly SeatRow[], room: number, self: number): readonly SeatRow[] {
  const at = ordered.findIndex((seat) => seat.id === self)
  return at < room || room < 2 ? ordered : [...ordered.slice(0, room - 1), ordered[at]!]
}

function useSize() {
  const ref = useRef<HTMLDivElement>(null)
  const [size, setSize] = useState({ width: 0, height: 0 })
  useLayoutEffect(() => {
    const box = ref.current?.getBoundingClientRect()
    if (box) setSize({ width: Math.floor(box.width), height: Math.floor(box.height) })
  }, [])
  useEffect(() => {
    const element = ref.current
    if (!element) return
    const watcher = new ResizeObserver(
      ([entry]) => entry && setSize({ width: Math.floor(entry.contentRect.width), height: Math.floor(entry.contentRect.height) }),
    )
    watcher.observe(element)
    return () => watcher.disconnect()
  }, [])
  return [ref, size] as const
}

import { useMemo, useRef } from 'react'
import type { ExhibitRow, Framing, Mark, MeRow } from '../contract.generated'
import { useLayers } from '../drawing/store'
import { useBaking } from '../drawing/useCanvases'
import { ExhibitCanvas } from '../exhibits/ExhibitCanvas'
import { standing, wholeLook, type Size } from '../exhibits/look'
import { PageCanvas, sheetSize, usePage } from '../exhibits/PageCanvas'
import { Shown } from '../recording/FramingPreview'
import { useFilmPlaces } from '../recording/useFilmPlaces'
import { initialsOf } from '../picture/initials'
import { filmSize } from './draw'

/** The picture of a film as it is drawn, in its full size and beside what the reader sees: nobody's view changes it. */
export function FilmStage({ root, me, framing }: { root: React.Ref<HTMLDivElement>; me: MeRow; framing: Framing }) {
  const { places, seats, exhibit } = useFilmPlaces(framing)
  return (
    <div
      ref={root}
      aria-hidden
      className="pointer-events-none fixed top-0 left-[-3000px]"
      style={{ width: filmSize.width, height: filmSize.height }}
    >
      {places.map((place) => {
        const seat = place.seat === null ? null : seats.get(place.seat)
        const box = {
          left: place.x * filmSize.width,
          top: place.y * filmSize.height,
          width: place.wide * filmSize.width,
          height: place.high * filmSize.height,
        }
        return (
          <div
            key={place.key}
            className="absolute overflow-hidden"
            style={box}
            data-film={JSON.stringify(box)}
            data-name={seat?.name ?? ''}
            data-initials={seat ? initialsOf(seat.name) : ''}
            data-fills={seat ? 'true' : undefined}
          >
            {seat
              ? seat.cameraOn && <Shown seat={seat.id} own={seat.id === me.seat} />
              : exhibit && (
                  <FilmExhibit key={exhibit.number} exhibit={exhibit} place={{ width: box.width, height: box.height }} />
                )}
          </div>
        )
      })}
    </div>
  )
}

const none: ReadonlyMap<number, Mark> = new Map()

function FilmExhibit({ exhibit, place }: { exhibit: ExhibitRow; place: Size }) {
  if (exhibit.kind === 'screen') return <ExhibitCanvas exhibit={exhibit} />
  return <FilmPage exhibit={exhibit} place={place} />
}

function FilmPage({ exhibit, place }: { exhibit: ExhibitRow; place: Size }) {
  const page = exhibit.pages?.at ?? 1
  const { picture } = usePage(exhibit, page, 1)
  const [wide, high] = [picture?.width ?? 0, picture?.height ?? 0]
  const size = useMemo(
    () => (exhibit.kind !== 'sheet' && wide > 0 ? { width: 1600, height: (1600 * high) / wide } : sheetSize),
    [exhibit.kind, wide, high],
  )
  const { width, height } = place
  const [here, stand] = useMemo(() => {
    const at = { width, height }
    return [at, standing(wholeLook, at, size)] as const
  }, [width, height, size])
  const marks = useLayers((state) => state.layers.get(exhibit.number)?.marks) ?? none
  const onPage = useMemo(() => [...marks.values()].filter((mark) => mark.page === page), [marks, page])
  const ink = useRef<HTMLCanvasElement>(null)
  useBaking(ink, onPage, stand, size, here, 1)
  return (
    <>
      <PageCanvas
        picture={picture}
        stand={stand}
        size={size}
        place={here}
        ruling={exhibit.kind === 'sheet' ? (exhibit.pages?.ruling ?? 'plain') : null}
        label=""
      />
      <canvas ref={ink} className="absolute inset-0 size-full" />
    </>
  )
}

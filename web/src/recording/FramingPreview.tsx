import { useEffect, useRef } from 'react'
import { useTranslation } from 'react-i18next'
import type { Framing } from '../contract.generated'
import { useLive } from '../live/store'
import { media, useMedia } from '../media/engine'
import { initialsOf } from '../picture/initials'
import { placesOf } from './placing'

/** The film as it would stand at this moment, small. */
export function FramingPreview({ framing, names }: { framing: Framing; names: boolean }) {
  const { t } = useTranslation()
  const seats = useLive((state) => state.seats)
  const me = useLive((state) => state.me?.seat)
  const floor = useLive((state) => state.sitting?.floor.turn?.seat ?? null)
  const shown = useLive((state) => state.sitting?.shelf.exhibits.find((one) => one.shown) ?? null)
  const speaker = useMedia((state) => state.speaker)
  const host = useLive((state) => state.sitting?.session.host ?? null)
  const people = [...seats.values()]
    .filter((seat) => seat.place === 'seated' && seat.recordable)
    .sort((a, b) => Number(b.id === host) - Number(a.id === host) || a.id - b.id)
  const first =
    [floor, speaker].find((seat) => people.some((one) => one.id === seat)) ??
    people.find((one) => one.cameraOn)?.id ??
    people[0]?.id ??
    null
  const seen = people.filter((one) => one.cameraOn || one.id === first).map((one) => one.id)
  const places = placesOf(framing, seen, first, shown !== null)
  return (
    <div
      role="img"
      aria-label={t('recording.preview', { framing: t(`recording.framing.${framing}`) })}
      className="relative aspect-video w-full overflow-hidden border border-edge bg-dusk"
    >
      {framing === 'sound' && <Center words={t('recording.framingName.sound')} />}
      {framing !== 'sound' && places.length === 0 && <Center words={t('recording.previewEmpty')} />}
      {places.map((place) => {
        const seat = place.seat === null ? null : seats.get(place.seat)
        return (
          <div
            key={place.key}
            className="absolute overflow-hidden border border-line bg-raised"
            style={{
              left: `${place.x * 100}%`,
              top: `${place.y * 100}%`,
              width: `${place.wide * 100}%`,
              height: `${place.high * 100}%`,
            }}
          >
            {seat ? (
              <>
                {seat.cameraOn && seat.id !== me ? <Small seat={seat.id} /> : <Center words={initialsOf(seat.name)} />}
                {names && place.wide > 0.25 && (
                  <span className="absolute bottom-0 left-0 bg-felt px-1 text-[0.625rem] text-on-felt">{seat.name}</span>
                )}
              </>
            ) : (
              <Center words={shown ? `${shown.letter} ${shown.title}` : ''} />
            )}
          </div>
        )
      })}
    </div>
  )
}

const Center = ({ words }: { words: string }) => (
  <span className="grid size-full place-items-center px-1 text-center font-serif text-[0.812rem] text-ink">{words}</span>
)

function Small({ seat }: { seat: number }) {
  const canvas = useRef<HTMLCanvasElement>(null)
  useEffect(() => (canvas.current ? media.show(seat, canvas.current) : undefined), [seat])
  return <canvas ref={canvas} aria-hidden className="block size-full object-cover" />
}

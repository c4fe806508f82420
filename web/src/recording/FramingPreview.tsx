import { useEffect, useRef } from 'react'
import { useTranslation } from 'react-i18next'
import type { Framing } from '../contract.generated'
import { useLive } from '../live/store'
import { media, useMedia } from '../media/engine'
import { initialsOf } from '../picture/initials'
import { useFilmPlaces } from './useFilmPlaces'

/** The film as it would stand at this moment, small. */
export function FramingPreview({ framing, names }: { framing: Framing; names: boolean }) {
  const { t } = useTranslation()
  const me = useLive((state) => state.me?.seat)
  const { places, seats, exhibit } = useFilmPlaces(framing)
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
                {seat.cameraOn ? <Shown seat={seat.id} own={seat.id === me} /> : <Center words={initialsOf(seat.name)} />}
                {names && place.wide > 0.25 && (
                  <span className="absolute bottom-0 left-0 bg-felt px-1 text-[0.625rem] text-on-felt">{seat.name}</span>
                )}
              </>
            ) : (
              <Center words={exhibit ? `${exhibit.letter} ${exhibit.title}` : ''} />
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

/** Somebody's camera, as it is sent: one's own, too, is not turned round. */
export function Shown({ seat, own }: { seat: number; own: boolean }) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const video = useRef<HTMLVideoElement>(null)
  const stream = useMedia((state) => (own ? state.ownCamera : null))
  useEffect(() => (!own && canvas.current ? media.show(seat, canvas.current) : undefined), [seat, own])
  useEffect(() => {
    if (video.current) video.current.srcObject = stream
  }, [stream])
  return own ? (
    <video ref={video} autoPlay muted playsInline aria-hidden className="block size-full object-cover" />
  ) : (
    <canvas ref={canvas} aria-hidden className="block size-full object-cover" />
  )
}

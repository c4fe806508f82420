import { clsx } from 'clsx'
import { useEffect, useRef } from 'react'
import { useTranslation } from 'react-i18next'
import type { MeRow, SeatRow } from '../contract.generated'
import { media, useMedia } from '../media/engine'
import { initialsOf } from './initials'

interface Props {
  seat: SeatRow
  me: MeRow
  large: boolean
  /** Whether the name stands below; the voice's edge stays in any case. */
  named: boolean
  /** How wide the tile stands, and whether its area is flatter than a camera's picture, in which case nothing of a head is cut off. */
  width: number
  flat: boolean
}

/** One person's picture with the name below; the edge between them grows with the voice. */
export function Tile({ seat, me, large, named, width, flat }: Props) {
  const { t } = useTranslation()
  const own = seat.id === me.seat
  const fit = flat ? 'object-contain' : 'object-cover'
  const roomy = width >= 150
  return (
    <figure className="flex size-full flex-col border border-line bg-raised" data-seat={seat.id}>
      <div className="[container-type:size] min-h-0 flex-1 overflow-hidden bg-dusk">
        {!seat.cameraOn ? (
          <div className="grid size-full place-items-center">
            <span className="sr-only">{t('picture.noCamera')}</span>
            <span aria-hidden className="font-serif text-[clamp(14px,38cqh,96px)] text-ink">
              {initialsOf(seat.name)}
            </span>
          </div>
        ) : own ? (
          <OwnCamera fit={fit} />
        ) : (
          <Canvas seat={seat.id} fit={fit} />
        )}
      </div>
      <figcaption
        className={clsx(
          'relative flex items-baseline gap-2 overflow-hidden px-2 whitespace-nowrap',
          !named ? 'h-1' : large ? 'h-9 pt-1.5 text-[1rem]' : 'h-6.5 pt-1 text-[0.781rem]',
        )}
      >
        <VoiceEdge seat={seat.id} />
        <span
          className={clsx(
            named && (roomy || !own) ? 'overflow-hidden text-ellipsis' : 'sr-only',
            roomy ? 'font-serif font-semibold' : 'text-[0.75rem] font-semibold [font-stretch:85%]',
          )}
        >
          {seat.name}
        </span>
        {named && (roomy || own) && (
          <span className={roomy ? 'text-[0.719rem] text-ink2' : 'text-[0.75rem] font-semibold'}>
            {own ? t('common.you') : seat.role === 'attendee' ? '' : t(`role.${seat.role}`)}
          </span>
        )}
      </figcaption>
    </figure>
  )
}

function Canvas({ seat, fit }: { seat: number; fit: string }) {
  const canvas = useRef<HTMLCanvasElement>(null)
  useEffect(() => (canvas.current ? media.show(seat, canvas.current) : undefined), [seat])
  return <canvas ref={canvas} aria-hidden className={`block size-full ${fit}`} />
}

function OwnCamera({ fit }: { fit: string }) {
  const { t } = useTranslation()
  const stream = useMedia((state) => state.ownCamera)
  const video = useRef<HTMLVideoElement>(null)
  useEffect(() => {
    if (video.current) video.current.srcObject = stream
  }, [stream])
  return <video ref={video} autoPlay muted playsInline aria-label={t('common.you')} className={`mirror block size-full ${fit}`} />
}

function VoiceEdge({ seat }: { seat: number }) {
  const bar = useRef<HTMLSpanElement>(null)
  useEffect(
    () =>
      media.listen(seat, (level) => {
        if (bar.current) bar.current.style.transform = `scaleX(${level / 100})`
      }),
    [seat],
  )
  return (
    <span
      ref={bar}
      aria-hidden
      className={clsx(
        'absolute inset-x-0 top-0 h-[3px] origin-left scale-x-0 bg-moss transition-transform duration-100',
        'motion-reduce:transition-none',
      )}
    />
  )
}

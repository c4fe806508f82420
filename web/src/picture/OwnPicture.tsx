import { useEffect, useRef } from 'react'
import { useTranslation } from 'react-i18next'

/** One's own camera as in a mirror, or a sentence in its place. */
export function OwnPicture({ stream, note }: { stream: MediaStream | null; note: string }) {
  const { t } = useTranslation()
  const video = useRef<HTMLVideoElement>(null)
  useEffect(() => {
    if (video.current) video.current.srcObject = stream
  }, [stream])
  return (
    <div className="aspect-video w-full overflow-hidden border border-line bg-dusk">
      {stream ? (
        <video ref={video} autoPlay muted playsInline aria-label={t('waiting.tidy')} className="mirror size-full object-cover" />
      ) : (
        <p className="grid size-full place-items-center p-6 text-center text-[0.938rem]">{note}</p>
      )}
    </div>
  )
}

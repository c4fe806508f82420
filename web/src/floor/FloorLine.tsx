import { useTranslation } from 'react-i18next'
import { useLive } from '../live/store'
import { useView } from '../picture/view'
import { useMedia } from '../media/engine'

/** Who speaks now, and how many microphones are open. */
export function FloorLine() {
  const { t } = useTranslation()
  const speaker = useMedia((state) => state.speaker)
  const seats = useLive((state) => state.seats)
  const name = speaker === null ? undefined : seats.get(speaker)?.name
  const hidden = useView((state) => state.hidden)
  const open = [...seats.values()].filter((seat) => seat.place === 'seated' && seat.microphone === 'open').length
  return (
    <div className="flex h-11 items-center gap-4 overflow-hidden whitespace-nowrap">
      <h2 className="font-serif text-[14px] font-semibold">{t('floor.title')}</h2>
      <p
        className={`overflow-hidden text-[14px] text-ellipsis ${name ? 'font-semibold' : 'text-ink2'}`}
        data-speaker={speaker ?? ''}
      >
        {name ? t('floor.speaking', { name }) : t('floor.quiet')}
      </p>
      <p className="ml-auto text-[13px] text-ink2">
        {t('floor.open', { count: open })}
        {hidden > 0 && ` · ${t('picture.more', { count: hidden })}`}
      </p>
    </div>
  )
}

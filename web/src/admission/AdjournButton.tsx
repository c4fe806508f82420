import { clsx } from 'clsx'
import { useTranslation } from 'react-i18next'
import type { SeatRow } from '../contract.generated'
import type { Sitting } from '../live/store'
import { wish } from '../live/connection'
import { useLive } from '../live/store'
import { Button } from '../ui/Button'
import { Panel, PanelClose } from '../ui/Panel'

/** Ends the sitting; asks once, in place, naming how many it cuts off. */
export function AdjournButton({ sitting }: { sitting: Sitting }) {
  const { t } = useTranslation()
  const others = sitting.counts.inside - 1 + sitting.counts.waiting
  const seats = useLive((state) => state.seats)
  const cutOff = [...seats.values()].filter((seat) => seat.place !== 'gone' && seat.id !== sitting.session.host)
  const names = (place: SeatRow['place']) => cutOff.filter((seat) => seat.place === place).map((seat) => seat.name)
  return (
    <Panel
      title={t('adjourn.title')}
      align="end"
      trigger={
        <button
          className={clsx(
            'shrink-0 border-l border-felt-line px-3.5 max-md:min-h-11 max-md:grow text-[0.844rem]',
            'font-semibold whitespace-nowrap hover:bg-felt-line',
          )}
        >
          {t('ribbon.adjourn')}
        </button>
      }
    >
      <p className="mb-3 text-[0.906rem]">
        {t('adjourn.lead', {
          inside: t('common.people', { count: sitting.counts.inside - 1 }),
          waiting: t('common.people', { count: sitting.counts.waiting }),
        })}
      </p>
      {(['lobby', 'seated'] as const).map(
        (place) =>
          names(place).length > 0 && (
            <p key={place} className="mb-2 max-h-28 overflow-y-auto border-l-2 border-brick pl-2 text-[0.844rem]">
              <b className="font-semibold">{t(place === 'lobby' ? 'adjourn.whoWaits' : 'adjourn.whoIsInside')}</b>{' '}
              {names(place).join(', ')}
            </p>
          ),
      )}
      <div className="flex flex-wrap gap-2">
        {/* First, so that the focus stands on what does no harm. */}
        <PanelClose asChild>
          <Button>{t('common.cancel')}</Button>
        </PanelClose>
        <Button look="end" onClick={() => void wish({ do: 'adjourn' })}>
          {others > 0 ? t('adjourn.confirmWith', { count: others }) : t('adjourn.confirm')}
        </Button>
      </div>
    </Panel>
  )
}

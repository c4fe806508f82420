import { useTranslation } from 'react-i18next'
import type { SittingRow } from '../contract.generated'
import { wish } from '../live/connection'
import { Button } from '../ui/Button'
import { Panel, PanelClose } from '../ui/Panel'

/** Ends the sitting; asks once, in place, naming how many it cuts off. */
export function AdjournButton({ sitting }: { sitting: SittingRow }) {
  const { t } = useTranslation()
  const others = sitting.inside - 1 + sitting.waiting
  return (
    <Panel
      title={t('adjourn.title')}
      align="end"
      trigger={
        <button className="shrink-0 border-l border-felt-line px-4 text-[13.5px] font-semibold whitespace-nowrap hover:bg-felt-line">
          {t('ribbon.adjourn')}
        </button>
      }
    >
      <p className="mb-3 text-[14.5px]">
        {t('adjourn.lead', {
          inside: t('common.people', { count: sitting.inside }),
          waiting: t('common.people', { count: sitting.waiting }),
        })}
      </p>
      <div className="flex flex-wrap gap-2">
        <Button look="end" onClick={() => void wish({ do: 'adjourn' })}>
          {others > 0 ? t('adjourn.confirmWith', { count: others }) : t('adjourn.confirm')}
        </Button>
        <PanelClose asChild>
          <Button>{t('common.cancel')}</Button>
        </PanelClose>
      </div>
    </Panel>
  )
}

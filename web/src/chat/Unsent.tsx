import { useTranslation } from 'react-i18next'
import { useLive } from '../live/store'
import { Button } from '../ui/Button'
import { dropUnsent, takeUnsent, useChat } from './store'

/** What was refused while something to somebody else was being written: nothing that was typed is lost. */
export function Unsent() {
  const { t } = useTranslation()
  const unsent = useChat((state) => state.unsent)
  const seats = useLive((state) => state.seats)
  return unsent.map(({ to, draft }, at) => (
    <div
      key={at}
      role="group"
      aria-label={t('chat.unsent')}
      className="border-l-4 border-brick bg-raised px-2 py-1 text-[0.812rem]"
    >
      <p className="font-medium text-brick">
        {t('chat.unsentTo', {
          to:
            to.reach === 'one'
              ? (seats.get(to.seat ?? 0)?.name ?? t('chat.gone'))
              : t(to.reach === 'bench' ? 'chat.bench' : 'chat.everyone'),
        })}
      </p>
      <p className="line-clamp-3 break-words whitespace-pre-line">{draft}</p>
      <div className="mt-0.5 flex gap-1">
        <Button small look="text" onClick={() => takeUnsent(at)}>
          {t('chat.unsentAgain')}
        </Button>
        <Button small look="text" onClick={() => dropUnsent(at)}>
          {t('chat.unsentDrop')}
        </Button>
      </div>
    </div>
  ))
}

import { clsx } from 'clsx'
import { useTranslation } from 'react-i18next'
import { wish } from '../live/connection'
import { useLive } from '../live/store'
import { deedOf } from './sentence'

/** Always in sight: what taking back would undo. */
export function TakeBackLine() {
  const { t } = useTranslation()
  const row = useLive((state) => state.sitting?.takeBack.newest)
  return (
    <div className="flex min-w-0 shrink-0 items-center justify-end gap-3 max-xl:shrink xl:max-w-[55%]">
      {row ? (
        <button
          aria-keyshortcuts="Control+Z"
          className={clsx(
            'flex min-h-7 min-w-0 items-center gap-2 text-[0.844rem] font-semibold text-felt-ink underline',
            'decoration-line decoration-2 underline-offset-4 hover:decoration-current',
          )}
          onClick={() => void wish({ do: 'takeBack', of: row.sequence })}
        >
          <kbd
            aria-hidden
            className={clsx(
              'shrink-0 rounded-sm border border-current px-1 font-sans text-[0.688rem] whitespace-nowrap',
              'no-underline max-sm:hidden',
            )}
          >
            Ctrl Z
          </kbd>
          <span className="overflow-hidden text-ellipsis whitespace-nowrap">
            {t('takeBack.what', { what: deedOf(t, row.row) })}
          </span>
        </button>
      ) : (
        <p className="text-[0.844rem] text-ink2">{t('takeBack.nothing')}</p>
      )}
    </div>
  )
}

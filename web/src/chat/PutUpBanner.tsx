import { useTranslation } from 'react-i18next'
import { wish } from '../live/connection'
import { useLive } from '../live/store'
import { Button } from '../ui/Button'

/** A question or message that the bench shows to all. */
export function PutUpBanner() {
  const { t } = useTranslation()
  const row = useLive((state) => state.sitting?.chat.putUp ?? null)
  const keeps = useLive((state) => state.me?.may.includes('keepChat') ?? false)
  if (!row) return null
  return (
    <aside
      aria-label={t('chat.upLabel')}
      className="mb-2 flex items-start gap-4 border border-l-[6px] border-line border-l-brass bg-raised px-4 py-2.5"
    >
      <div className="min-w-0 flex-1">
        <p className="text-[0.812rem] text-ink2">
          {t(row.question === 'none' ? 'chat.upFrom' : 'chat.upQuestionFrom', { name: row.name ?? t('chat.somebody') })}
        </p>
        <p className="max-h-24 overflow-y-auto font-serif text-[1.125rem] leading-snug break-words whitespace-pre-wrap">
          {row.text}
        </p>
      </div>
      {keeps && (
        <span className="flex flex-wrap justify-end gap-1.5">
          {row.question === 'asked' && (
            <Button
              small
              look="primary"
              onClick={() =>
                void wish({ do: 'markQuestion', message: row.number, to: 'answered' }).then(() =>
                  wish({ do: 'putUp', message: null }),
                )
              }
            >
              {t('chat.answeredDown')}
            </Button>
          )}
          <Button small onClick={() => void wish({ do: 'putUp', message: null })}>
            {t('chat.takeDown')}
          </Button>
        </span>
      )}
    </aside>
  )
}

import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { PollForm } from '../contract.generated'
import { clock } from '../i18n'
import { Button } from '../ui/Button'
import { PollEditor } from './PollEditor'
import { newForm, titleOf } from './words'

interface Props {
  prepared: readonly PollForm[]
  onChange: (prepared: PollForm[]) => Promise<boolean>
  /** Left out where nothing can be opened; null while another one is open. */
  onOpen?: ((form: PollForm) => Promise<boolean>) | null
  /** Its heading stands above it already. */
  untitled?: boolean
}

/** Questions that are written now and opened later; the same in the plan and live. */
export function PreparedPolls({ prepared, onChange, onOpen, untitled = false }: Props) {
  const { t } = useTranslation()
  /** The place of the question that is changed, the one behind the last for a new one; null for none. */
  const [edited, setEdited] = useState<number | null>(null)
  const editor = (at: number, form: PollForm) => (
    <PollEditor
      key={at}
      form={form}
      keep={t(at < prepared.length ? 'polls.keepIt' : 'polls.prepareIt')}
      onOpen={onOpen ?? null}
      onKeep={(kept) => onChange(at < prepared.length ? prepared.map((one, n) => (n === at ? kept : one)) : [...prepared, kept])}
      onClose={() => setEdited(null)}
    />
  )
  return (
    <section aria-label={t('polls.prepared')}>
      <div className="mb-1 flex items-center gap-2">
        {!untitled && <h3 className="flex-1 text-[0.844rem] font-semibold">{t('polls.prepared')}</h3>}
        {edited === null && (
          <Button small onClick={() => setEdited(prepared.length)}>
            {t('polls.new')}
          </Button>
        )}
      </div>
      {edited === prepared.length && editor(edited, newForm())}
      {prepared.length === 0 && edited === null && <p className="text-[0.844rem] text-ink2">{t('polls.nonePrepared')}</p>}
      <ul className="flex flex-col gap-1.5">
        {prepared.map((form, at) => (
          <li key={at}>
            {edited === at ? (
              editor(at, form)
            ) : (
              <div className="border border-l-[5px] border-line border-l-edge bg-paper px-2.5 py-1.5">
                <p className="text-[0.875rem] break-words">{titleOf(t, form)}</p>
                <p className="text-[0.781rem] text-ink2">
                  {t(`polls.kind.${form.kind}`)} · {t(form.secret ? 'polls.secret' : 'polls.named')}
                  {form.seconds !== null && ` · ${clock(form.seconds * 1000)}`}
                </p>
                <div className="mt-1 flex flex-wrap gap-1.5">
                  {onOpen !== undefined && (
                    <Button
                      small
                      look="primary"
                      disabled={onOpen === null}
                      aria-label={t('polls.openNamed', { text: titleOf(t, form) })}
                      onClick={() => void onOpen?.(form)}
                    >
                      {t('polls.open')}
                    </Button>
                  )}
                  <Button small aria-label={t('polls.edit', { text: titleOf(t, form) })} onClick={() => setEdited(at)}>
                    {t('common.edit')}
                  </Button>
                  <Button
                    small
                    look="end"
                    aria-label={t('polls.removeNamed', { text: titleOf(t, form) })}
                    onClick={() => void onChange(prepared.filter((_, other) => other !== at))}
                  >
                    {t('common.remove')}
                  </Button>
                </div>
              </div>
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}

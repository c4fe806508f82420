import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import { Button } from './Button'

/** Copies a text; where the browser does not let it, the text stands there to be copied by hand. */
export function CopyButton({ text, label }: { text: string; label: string }) {
  const { t } = useTranslation()
  const [state, setState] = useState<'idle' | 'copied' | 'byHand'>('idle')
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(text)
    } catch {
      return setState('byHand')
    }
    setState('copied')
    setTimeout(() => setState('idle'), 2500)
  }
  return (
    <>
      <Button onClick={() => void copy()}>{state === 'copied' ? t('common.copied') : label}</Button>
      <span role="status" className="sr-only">
        {state === 'copied' ? t('common.copied') : ''}
      </span>
      {state === 'byHand' && (
        <label className="basis-full text-[0.812rem] text-ink2">
          {t('common.copyByHand')}
          <textarea
            readOnly
            rows={Math.min(8, text.split('\n').length)}
            value={text}
            // It has just been asked for, to be copied.
            // eslint-disable-next-line jsx-a11y/no-autofocus
            autoFocus
            onFocus={(event) => event.target.select()}
            className="mt-1 block w-full rounded-sm border border-edge bg-raised p-1.5 text-[0.875rem] text-ink"
          />
        </label>
      )}
    </>
  )
}

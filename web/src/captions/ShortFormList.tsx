import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import { Button } from '../ui/Button'
import { addForm, dropForm, longestForm, mostForms, useShortForms } from './shortForms'

/** Short forms that are written out as one types. */
export function ShortFormList() {
  const { t } = useTranslation()
  const forms = useShortForms((state) => state.forms)
  const [short, setShort] = useState('')
  const [long, setLong] = useState('')
  const [wrong, setWrong] = useState('')
  const add = () => {
    const [one, other] = [short.trim(), long.trim()]
    if (!/^[\p{L}\p{N}]+$/u.test(one) || other === '') return setWrong(t('captions.formWrong'))
    if (Object.keys(forms).length >= mostForms) return setWrong(t('captions.formsFull'))
    addForm(one, other)
    setShort('')
    setLong('')
    setWrong('')
  }
  const field = 'min-h-8 min-w-0 rounded-sm border border-edge bg-paper px-2 text-[0.875rem]'
  return (
    <details className="mt-1.5 text-[0.844rem]">
      <summary className="min-h-6 cursor-pointer font-semibold">
        {t('captions.forms', { count: Object.keys(forms).length })}
      </summary>
      <ul className="max-h-32 overflow-auto">
        {Object.entries(forms)
          .sort(([a], [b]) => a.localeCompare(b))
          .map(([one, other]) => (
            <li key={one} className="flex items-center gap-2">
              <b className="w-16 shrink-0 font-semibold">{one}</b>
              <span className="min-w-0 flex-1 break-words">{other}</span>
              <Button small look="text" aria-label={t('captions.dropFormOf', { short: one })} onClick={() => dropForm(one)}>
                {t('captions.dropForm')}
              </Button>
            </li>
          ))}
      </ul>
      <form
        className="mt-1 flex flex-wrap gap-1.5"
        onSubmit={(event) => {
          event.preventDefault()
          add()
        }}
      >
        <input
          aria-label={t('captions.short')}
          placeholder={t('captions.short')}
          className={`${field} w-24`}
          maxLength={20}
          value={short}
          onChange={(e) => setShort(e.target.value)}
        />
        <input
          aria-label={t('captions.long')}
          placeholder={t('captions.long')}
          className={`${field} flex-1`}
          maxLength={longestForm}
          value={long}
          onChange={(e) => setLong(e.target.value)}
        />
        <Button small type="submit">
          {t('captions.addForm')}
        </Button>
      </form>
      {wrong && (
        <p role="alert" className="mt-1 font-medium text-brick">
          {wrong}
        </p>
      )}
    </details>
  )
}

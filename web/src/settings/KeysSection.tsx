import { clsx } from 'clsx'
import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import { Button } from '../ui/Button'
import { benchActs, nameOfKey, ownActs, resetKeys, setKey, useKeymap, usualKeys, type KeyAct } from './keymap'

/** Keys that move along the board; they are the browser's own, and stay. */
const fixed: readonly [string, string][] = [
  ['keys.upDown', 'move'],
  ['keys.pages', 'movePage'],
  ['keys.ends', 'moveEnd'],
  ['keys.shift', 'extend'],
  ['keys.space', 'select'],
  ['keys.enter', 'open'],
]

/** The keys, what they do, and how to change them. */
export function KeysSection({ bench }: { bench: boolean }) {
  const { t } = useTranslation()
  const map = useKeymap()
  const [waiting, setWaiting] = useState<KeyAct | null>(null)
  const [said, setSaid] = useState('')
  const nameOf = (key: string) =>
    key === 'Delete' ? t('keys.delete') : key === 'Escape' ? t('keys.escape') : key === ' ' ? t('keys.space') : key
  const acts = [...(bench ? benchActs : []), ...ownActs]
  return (
    <>
      <p className="mb-2 text-[0.844rem] text-ink2">{t('keys.lead')}</p>
      <p role="status" className="min-h-5 text-[0.844rem] font-medium">
        {waiting ? t('keys.press', { what: t(`keys.${waiting}`) }) : said}
      </p>
      <ul className="grid grid-cols-1 gap-x-6 text-[0.875rem] sm:grid-cols-2">
        {bench &&
          fixed.map(([key, what]) => (
            <li key={what} className="flex min-h-8 items-center gap-3 border-t border-line">
              <span className="flex-1">{t(`keys.${what}`)}</span>
              <kbd className="px-1.5 font-sans text-[0.781rem] text-ink2">{t(key)}</kbd>
            </li>
          ))}
        {acts.map((act) => (
          <li key={act} className="flex min-h-8 items-center gap-3 border-t border-line">
            <span className="flex-1 py-1 leading-tight">{t(`keys.${act}`)}</span>
            <button
              aria-label={t('keys.change', { what: t(`keys.${act}`), key: nameOf(map[act]) })}
              aria-pressed={waiting === act}
              onClick={() => setWaiting(waiting === act ? null : act)}
              onBlur={() => setWaiting(null)}
              onKeyDown={(event) => {
                if (waiting !== act || event.key === 'Tab') return
                event.preventDefault()
                event.stopPropagation()
                const key = nameOfKey(event)
                if (key === null) return
                const other = setKey(act, key)
                setSaid(
                  other
                    ? t('keys.exchanged', {
                        what: t(`keys.${act}`),
                        other: t(`keys.${other}`),
                        key: nameOf(useKeymap.getState()[other]),
                      })
                    : t('keys.changed', { what: t(`keys.${act}`), key: nameOf(key) }),
                )
                setWaiting(null)
              }}
              className={clsx(
                'min-h-6 min-w-8 rounded-sm border px-1.5 font-sans text-[0.781rem]',
                waiting === act
                  ? 'border-brass bg-brass-soft'
                  : map[act] === usualKeys[act]
                    ? 'border-edge'
                    : 'border-felt-ink font-bold',
              )}
            >
              <kbd className="font-sans">{waiting === act ? '…' : nameOf(map[act])}</kbd>
            </button>
          </li>
        ))}
      </ul>
      <p className="mt-2 text-[0.812rem] text-ink2">{bench && t('keys.places')}</p>
      <Button
        small
        className="mt-2"
        onClick={() => {
          resetKeys()
          setSaid(t('keys.resetDone'))
        }}
      >
        {t('keys.reset')}
      </Button>
    </>
  )
}

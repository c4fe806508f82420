import { useTranslation } from 'react-i18next'
import { Panel } from '../ui/Panel'

const benchKeys: readonly [string, string][] = [
  ['keys.upDown', 'move'],
  ['keys.space', 'select'],
  ['keys.enter', 'open'],
  ['a', 'admit'],
  ['A', 'sure'],
  ['n', 'next'],
  ['d', 'decline'],
  ['f', 'floor'],
  ['F', 'takeFloor'],
  ['q', 'mute'],
  ['p', 'role'],
  ['b', 'lobby'],
  ['keys.delete', 'remove'],
  ['l', 'door'],
  ['s', 'find'],
  ['keys.escape', 'clear'],
  ['Ctrl+Z', 'takeBack'],
]
const ownKeys: readonly [string, string][] = [
  ['1', 'mic'],
  ['2', 'cam'],
  ['h', 'hand'],
  ['?', 'help'],
]

/** The keys and what they do. */
export function KeyList({ open, onOpenChange, bench }: { open: boolean; onOpenChange: (open: boolean) => void; bench: boolean }) {
  const { t } = useTranslation()
  return (
    <Panel
      title={t('keys.title')}
      align="end"
      open={open}
      onOpenChange={onOpenChange}
      trigger={
        <button className="shrink-0 border-l border-felt-line px-4 text-[13.5px] font-semibold hover:bg-felt-line max-sm:hidden">
          {t('ribbon.keys')}
        </button>
      }
    >
      <p className="mb-2 text-[13.5px] text-ink2">{t('keys.lead')}</p>
      <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1 text-[14px]">
        {[...(bench ? benchKeys : []), ...ownKeys].map(([key, what]) => (
          <div key={what} className="contents">
            <dt>
              <kbd className="rounded-sm border border-edge px-1.5 font-sans text-[12.5px]">
                {key.startsWith('keys.') ? t(key) : key}
              </kbd>
            </dt>
            <dd>{t(`keys.${what}`)}</dd>
          </div>
        ))}
      </dl>
    </Panel>
  )
}

import { useTranslation } from 'react-i18next'
import { Field, Words } from '../ui/Field'
import { roomName } from './words'

/** What one room has for itself, as it is typed. */
export interface OwnWishes {
  people: string
  task: string
  shows: string
}

export const noWishes: OwnWishes = { people: '', task: '', shows: '' }

interface Props {
  /** By their names; empty for one that is called by its number. */
  names: readonly string[]
  wishesOf: (room: number) => OwnWishes
  onChange: (room: number, change: Partial<OwnWishes>) => void
}

/** People by hand, a task and a document of single rooms. */
export function EachRoom({ names, wishesOf, onChange }: Props) {
  const { t } = useTranslation()
  return (
    <details>
      <summary className="cursor-pointer text-[0.844rem] font-semibold text-felt-ink underline underline-offset-4">
        {t('rooms.eachItself')}
      </summary>
      <ul className="mt-2 flex flex-col divide-y divide-line border-y border-line">
        {names.map((name, at) => {
          const own = wishesOf(at)
          const called = roomName(t, { name, ordinal: at + 1 })
          const facts = [
            ...(own.people.trim() ? [own.people.trim()] : []),
            ...(own.task.trim() ? [t('rooms.ownTask')] : []),
            ...(own.shows.trim() ? [own.shows.trim()] : []),
          ]
          return (
            <li key={at}>
              <details>
                <summary className="flex min-h-9 cursor-pointer items-baseline gap-2 py-1.5 text-[0.875rem]">
                  <span className="font-semibold">{called}</span>
                  <span className="min-w-0 flex-1 truncate text-[0.812rem] text-ink2">{facts.join(' · ')}</span>
                  <span aria-hidden="true" className="text-[0.812rem] text-felt-ink underline underline-offset-4">
                    {t('rooms.openOne')}
                  </span>
                </summary>
                <div role="group" aria-label={called} className="flex flex-col gap-2 pb-2.5">
                  <Field
                    label={t('rooms.people')}
                    maxLength={7000}
                    value={own.people}
                    onChange={(e) => onChange(at, { people: e.target.value })}
                  />
                  <Words
                    label={t('rooms.taskHere')}
                    rows={2}
                    maxLength={2000}
                    value={own.task}
                    onChange={(e) => onChange(at, { task: e.target.value })}
                  />
                  <Field
                    label={t('rooms.showsHere')}
                    maxLength={120}
                    value={own.shows}
                    onChange={(e) => onChange(at, { shows: e.target.value })}
                  />
                </div>
              </details>
            </li>
          )
        })}
      </ul>
    </details>
  )
}

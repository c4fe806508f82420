import { Collapsible } from 'radix-ui'
import { useTranslation } from 'react-i18next'
import type { Item } from '../contract.generated'
import { onItem } from '../topics/onItem'
import { Button } from '../ui/Button'
import { Field, Words } from '../ui/Field'

/** An item that nothing is filled in of yet. */
export const newItem = (items: readonly Item[]): Item => ({
  id: Math.max(0, ...items.map((item) => item.id)) + 1,
  title: '',
  minutes: 10,
  lead: null,
  orders: null,
  picture: null,
  note: null,
  shows: null,
  records: null,
  asks: null,
  opensRooms: false,
})

/** The order of business, to be changed; the same in the plan and live. */
export function ItemsEditor({ items, onChange }: { items: readonly Item[]; onChange: (items: readonly Item[]) => void }) {
  const { t } = useTranslation()
  const set = (at: number, change: Partial<Item>) => onChange(items.map((item, n) => (n === at ? { ...item, ...change } : item)))
  const move = (at: number, by: number) => {
    const moved = [...items]
    const [item] = moved.splice(at, 1)
    moved.splice(at + by, 0, item!)
    onChange(moved)
  }
  const sum = items.reduce((all, item) => all + (item.minutes ?? 0), 0)
  return (
    <div className="flex flex-col gap-2">
      {items.length === 0 && <p className="text-[0.875rem] text-ink2">{t('runSheet.none')}</p>}
      <ol className="flex flex-col gap-2">
        {items.map((item, at) => (
          <li
            key={item.id}
            className="border border-l-[5px] border-line border-l-felt-ink bg-paper px-2.5 py-2"
            aria-label={t('runSheet.itemLabel', { number: at + 1, title: item.title })}
          >
            <div className="grid grid-cols-[minmax(0,1fr)_5rem] gap-2">
              <Field
                label={t('runSheet.itemTitle', { number: at + 1 })}
                maxLength={120}
                value={item.title}
                onChange={(e) => set(at, { title: e.target.value })}
              />
              <Field
                label={t('runSheet.minutes')}
                type="number"
                min={1}
                max={1440}
                value={item.minutes ?? ''}
                onChange={(e) => set(at, { minutes: e.target.value === '' ? null : Number(e.target.value) })}
              />
            </div>
            <Collapsible.Root>
              <div className="mt-1.5 flex flex-wrap items-center gap-1.5">
                <Collapsible.Trigger asChild>
                  <Button small look="text">
                    {t('runSheet.more')}
                  </Button>
                </Collapsible.Trigger>
                <span className="ml-auto flex gap-1.5">
                  <Button
                    small
                    disabled={at === 0}
                    aria-label={t('runSheet.up', { title: item.title })}
                    onClick={() => move(at, -1)}
                  >
                    {t('runSheet.upShort')}
                  </Button>
                  <Button
                    small
                    disabled={at === items.length - 1}
                    aria-label={t('runSheet.down', { title: item.title })}
                    onClick={() => move(at, 1)}
                  >
                    {t('runSheet.downShort')}
                  </Button>
                  <Button
                    small
                    look="end"
                    aria-label={t('runSheet.drop', { title: item.title })}
                    onClick={() => onChange(items.filter((_, n) => n !== at))}
                  >
                    {t('common.remove')}
                  </Button>
                </span>
              </div>
              <Collapsible.Content className="mt-2 flex flex-col gap-2 border-t border-line pt-2">
                <Field
                  label={t('runSheet.lead')}
                  maxLength={80}
                  value={item.lead ?? ''}
                  onChange={(e) => set(at, { lead: e.target.value || null })}
                />
                {onItem.map(({ at: key, Fields }) => (
                  <Fields key={key} item={item} onChange={(change) => set(at, change)} />
                ))}
                <Words
                  label={t('runSheet.note')}
                  maxLength={2000}
                  value={item.note ?? ''}
                  onChange={(e) => set(at, { note: e.target.value || null })}
                />
              </Collapsible.Content>
            </Collapsible.Root>
          </li>
        ))}
      </ol>
      <div className="flex items-center gap-3">
        <Button onClick={() => onChange([...items, newItem(items)])}>{t('runSheet.add')}</Button>
        {sum > 0 && (
          <p className="text-[0.844rem] text-ink2">{t('runSheet.sum', { minutes: t('common.minutes', { count: sum }) })}</p>
        )}
      </div>
    </div>
  )
}

import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import { recordings } from '../../api/client'
import type { RecordingPage, Watchers } from '../../contract.generated'
import { Button } from '../../ui/Button'
import { Failure } from '../../ui/Failure'
import { Field, Select } from '../../ui/Field'
import { wastebasketDays } from '../library'
import { Part } from './Part'
import { useAct } from './useAct'

export function About({ page }: { page: RecordingPage }) {
  const { t } = useTranslation()
  const { recording } = page
  const [name, setName] = useState(recording.name)
  const [shelf, setShelf] = useState(recording.shelf)
  const [watchers, setWatchers] = useState<Watchers>(recording.watchers)
  const keep = useAct(recording.id, () => recordings.keep(recording.id, { name, shelf, watchers }))
  const remove = useAct(recording.id, () => recordings.remove(recording.id))
  const changed = name !== recording.name || shelf !== recording.shelf || watchers !== recording.watchers
  return (
    <Part title={t('player.about')}>
      <form
        className="flex flex-col gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          keep.mutate(undefined)
        }}
      >
        <Field label={t('player.name')} maxLength={120} value={name} onChange={(e) => setName(e.target.value)} />
        <Field label={t('player.shelf')} maxLength={60} value={shelf} onChange={(e) => setShelf(e.target.value)} />
        <Select label={t('recording.forWhom')} value={watchers} onChange={(e) => setWatchers(e.target.value as Watchers)}>
          {(['bench', 'present', 'invited'] as const).map((one) => (
            <option key={one} value={one}>
              {t(`recording.watchersName.${one}`)}
            </option>
          ))}
        </Select>
        <Failure of={[keep.error, remove.error]} />
        <Button type="submit" className="self-start" disabled={!changed || keep.isPending}>
          {t('player.keepDo')}
        </Button>
      </form>
      <div className="mt-4 flex flex-wrap items-center gap-2">
        {recording.deletedAt === null ? (
          <>
            <Button look="end" onClick={() => remove.mutate(undefined)}>
              {t('player.delete')}
            </Button>
            <span className="text-[0.812rem] text-ink2">{t('player.deleteHint', { count: wastebasketDays })}</span>
          </>
        ) : (
          <span role="status">{t('player.deletedNow')}</span>
        )}
      </div>
    </Part>
  )
}

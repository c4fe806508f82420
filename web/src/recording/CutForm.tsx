import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import { recordings } from '../api/client'
import type { CutRow, FilmRow } from '../contract.generated'
import { clock, listOf } from '../i18n'
import { Button } from '../ui/Button'
import { Failure } from '../ui/Failure'
import { Field } from '../ui/Field'
import { timeIn } from './library'
import { usePlace } from './place'

interface Props {
  id: string
  film: FilmRow
  onMade: (film: string) => void
}

/** Leaves parts of the film that is looked at out, at once and without loss; says first what exactly would go. */
export function CutForm({ id, film, onMade }: Props) {
  const { t } = useTranslation()
  const queries = useQueryClient()
  const [parts, setParts] = useState([{ from: '', to: '' }])
  const [bad, setBad] = useState(false)
  const read = () => {
    const times = parts.map((part) => ({ from: timeIn(part.from), to: timeIn(part.to) }))
    const good = times.filter((part): part is CutRow => part.from !== null && part.to !== null && part.from < part.to)
    setBad(good.length < times.length)
    return good.length === times.length ? good : null
  }
  const look = useMutation({ mutationFn: (cuts: CutRow[]) => recordings.cut(id, film.id, { parts: cuts, looks: true }) })
  const cut = useMutation({
    mutationFn: (cuts: CutRow[]) => recordings.cut(id, film.id, { parts: cuts, looks: false }),
    onSuccess: async (made) => {
      await queries.invalidateQueries({ queryKey: ['recording', id] })
      if (made.film) onMade(made.film)
    },
  })
  const set = (at: number, change: Partial<{ from: string; to: string }>) => {
    look.reset()
    setParts(parts.map((part, index) => (index === at ? { ...part, ...change } : part)))
  }
  const here = () => clock(usePlace.getState().at)
  const act = (how: typeof look | typeof cut) => {
    const good = read()
    if (good) how.mutate(good)
  }
  return (
    <form
      className="flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault()
        act(look.data ? cut : look)
      }}
    >
      {parts.map((part, at) => (
        <fieldset key={at} className="flex flex-wrap items-end gap-2">
          <legend className="sr-only">{t('player.leaveOut')}</legend>
          <div className="w-24">
            <Field
              label={t('player.from')}
              placeholder="0:00"
              value={part.from}
              onChange={(e) => set(at, { from: e.target.value })}
            />
          </div>
          <Button small aria-label={`${t('player.from')}: ${t('player.here')}`} onClick={() => set(at, { from: here() })}>
            {t('player.here')}
          </Button>
          <div className="w-24">
            <Field label={t('player.to')} placeholder="1:30" value={part.to} onChange={(e) => set(at, { to: e.target.value })} />
          </div>
          <Button small aria-label={`${t('player.to')}: ${t('player.here')}`} onClick={() => set(at, { to: here() })}>
            {t('player.here')}
          </Button>
        </fieldset>
      ))}
      <p className="text-[0.812rem] text-ink2">{t('player.cutHint')}</p>
      {bad && (
        <p role="alert" className="text-[0.844rem] font-medium text-brick">
          {t('player.badCut')}
        </p>
      )}
      {look.data && (
        <p role="status" className="border-l-4 border-brass pl-2 text-[0.875rem]">
          {t('player.wouldGo', { parts: listOf(look.data.parts.map((one) => `${clock(one.from)}–${clock(one.to)}`)) })}
        </p>
      )}
      <Failure of={[look.error, cut.error]} />
      <div className="flex flex-wrap gap-2">
        <Button look={look.data ? 'primary' : 'plain'} type="submit" disabled={look.isPending || cut.isPending}>
          {t(look.data ? 'player.cutDo' : 'player.cutLook')}
        </Button>
        <Button
          onClick={() => {
            look.reset()
            setParts([...parts, { from: '', to: '' }])
          }}
        >
          {t('player.addCut')}
        </Button>
      </div>
    </form>
  )
}

import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { MeRow } from '../contract.generated'
import { wish } from '../live/connection'
import { useLive } from '../live/store'
import { Button } from '../ui/Button'
import { Select, Tick } from '../ui/Field'

/** For the bench: who turns what is said into words. */
export function CaptionMakers({ me }: { me: MeRow }) {
  const { t } = useTranslation()
  const captions = useLive((state) => state.sitting?.captions)
  const seats = useLive((state) => state.seats)
  const [open, setOpen] = useState(false)
  const [chosen, setChosen] = useState('')
  if (!captions) return null
  const people = [...seats.values()]
    .filter((seat) => seat.place === 'seated' && !captions.captioners.includes(seat.id))
    .sort((a, b) => a.name.localeCompare(b.name))
  const pick = people.find((seat) => String(seat.id) === chosen) ?? null
  const names = captions.captioners.map((id) => seats.get(id)?.name ?? '').filter(Boolean)
  const sentence = [
    names.length > 0 ? t('captions.by', { names: names.join(', ') }) : '',
    captions.byMachine ? t('captions.byMachine') : '',
  ]
    .filter(Boolean)
    .join(' ')
  return (
    <section aria-label={t('captions.makers')} className="border-b border-line px-3 pb-2 text-[0.875rem]">
      <div className="flex items-center gap-2">
        <p className="flex-1">{sentence || t('captions.nobody')}</p>
        <Button small aria-expanded={open} onClick={() => setOpen(!open)}>
          {t(open ? 'captions.closeMakers' : 'captions.change')}
        </Button>
      </div>
      {open && (
        <div className="mt-2 flex flex-col gap-2">
          {captions.captioners.map((id) => (
            <p key={id} className="flex items-center gap-2">
              <span className="flex-1">
                {seats.get(id)?.name}
                {captions.turn === id && <span className="ml-1.5 text-[0.812rem] text-ink2">{t('captions.writesNow')}</span>}
              </span>
              <Button small onClick={() => void wish({ do: 'nameCaptioner', person: id, captions: false })}>
                {t('captions.release')}
              </Button>
            </p>
          ))}
          <div className="flex items-end gap-2">
            <div className="min-w-0 flex-1">
              <Select label={t('captions.who')} value={pick ? chosen : ''} onChange={(e) => setChosen(e.target.value)}>
                <option value="">{t('captions.choose')}</option>
                {people.map((seat) => (
                  <option key={seat.id} value={seat.id}>
                    {seat.id === me.seat ? t('captions.you', { name: seat.name }) : seat.name}
                  </option>
                ))}
              </Select>
            </div>
            <Button disabled={!pick} onClick={() => pick && void wish({ do: 'nameCaptioner', person: pick.id, captions: true })}>
              {t('captions.name')}
            </Button>
          </div>
          <Tick
            label={t('captions.machine')}
            checked={captions.byMachine}
            onChange={(e) => void wish({ do: 'captionByMachine', on: e.target.checked })}
          />
          <p className="text-[0.812rem] text-ink2">{t('captions.machineHint')}</p>
        </div>
      )}
    </section>
  )
}

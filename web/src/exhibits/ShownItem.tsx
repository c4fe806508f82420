import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { ExhibitRow, MeRow } from '../contract.generated'
import { clock } from '../i18n'
import { wish } from '../live/connection'
import type { Sitting } from '../live/store'
import { useNow } from '../live/time'
import { media, useMedia } from '../media/engine'
import { RibbonItem } from '../sittings/RibbonItem'
import { Button } from '../ui/Button'
import { Tick } from '../ui/Field'
import { ExhibitCanvas } from './ExhibitTile'
import { closeScreen, holdScreen, openScreen } from './ownScreen'

const canCapture = 'mediaDevices' in navigator && 'getDisplayMedia' in navigator.mediaDevices

/** What is shown to all; opens onto one's own screen and, for the bench, onto the shelf. */
export function ShownItem({ me, sitting }: { me: MeRow; sitting: Sitting }) {
  const { t } = useTranslation()
  const [open, setOpen] = useState(false)
  const { exhibits } = sitting.shelf
  const shown = exhibits.filter((one) => one.shown)
  const mine = me.exhibits.find((one) => one.kind === 'screen')
  const others = exhibits.filter((one) => one.by !== me.seat)
  const mayExhibit = me.may.includes('exhibit')
  if (!mayExhibit && shown.length === 0) return null
  const value =
    shown.length > 0
      ? shown.map((one) => t(one.held ? 'exhibits.isHeld' : 'exhibits.is', { letter: one.letter, name: one.byName })).join(' · ')
      : t(mine ? 'exhibits.onlyYou' : 'exhibits.nothing')
  return (
    <RibbonItem
      label={t('exhibits.shown')}
      value={value}
      title={t('exhibits.title')}
      unusual={mine !== undefined || shown.some((one) => one.held)}
      open={open}
      onOpenChange={setOpen}
    >
      <div className="flex flex-col gap-4">
        {mine ? (
          <OwnScreen exhibit={mine} others={shown.some((one) => one.by !== me.seat)} />
        ) : (
          mayExhibit && (
            <div className="flex flex-col items-start gap-2">
              <Button look="primary" disabled={!canCapture} onClick={() => void openScreen().then((opened) => setOpen(opened))}>
                {t('exhibits.open')}
              </Button>
              <p className="text-[0.844rem] text-ink2">{t(canCapture ? 'exhibits.openHint' : 'exhibits.cannot')}</p>
            </div>
          )
        )}
        {others.length > 0 && (
          <ul aria-label={t('exhibits.shelf')} className="flex flex-col gap-2 border-t border-line pt-3">
            {others.map((one) => (
              <Other key={one.number} exhibit={one} keeps={me.may.includes('keepExhibits')} />
            ))}
          </ul>
        )}
      </div>
    </RibbonItem>
  )
}

function OwnScreen({ exhibit, others }: { exhibit: ExhibitRow; others: boolean }) {
  const { t } = useTranslation()
  const now = useNow()
  const smooth = useMedia((state) => state.screenIsSmooth)
  const state = exhibit.shown
    ? t(exhibit.held ? 'exhibits.heldForAll' : 'exhibits.allSee', { time: clock(now - exhibit.since) })
    : t('exhibits.youSee')
  return (
    <section aria-label={t('exhibits.mine')} className="flex flex-col gap-2">
      <div className={`aspect-video border-2 bg-dusk ${exhibit.shown && !exhibit.held ? 'border-moss' : 'border-brass'}`}>
        <ExhibitCanvas exhibit={exhibit} />
      </div>
      <p role="status" className="text-[0.875rem] font-semibold">
        {state}
      </p>
      <div className="flex flex-wrap gap-2">
        {exhibit.shown ? (
          <>
            <Button look="primary" onClick={() => void holdScreen(!exhibit.held)}>
              {t(exhibit.held ? 'exhibits.goOn' : 'exhibits.hold')}
            </Button>
            <Button onClick={() => void wish({ do: 'takeDown', exhibit: exhibit.number })}>{t('exhibits.takeDown')}</Button>
          </>
        ) : (
          <>
            <Button look="primary" onClick={() => void wish({ do: 'showExhibit', exhibit: exhibit.number, beside: false })}>
              {t('exhibits.show')}
            </Button>
            {others && (
              <Button onClick={() => void wish({ do: 'showExhibit', exhibit: exhibit.number, beside: true })}>
                {t('exhibits.beside')}
              </Button>
            )}
          </>
        )}
        <Button onClick={() => void closeScreen()}>{t('exhibits.close')}</Button>
      </div>
      <Tick label={t('exhibits.smooth')} checked={smooth} onChange={(event) => media.favourMovement(event.target.checked)} />
    </section>
  )
}

function Other({ exhibit, keeps }: { exhibit: ExhibitRow; keeps: boolean }) {
  const { t } = useTranslation()
  const called = { letter: exhibit.letter, name: exhibit.byName }
  return (
    <li className="flex flex-wrap items-center gap-2 text-[0.875rem]">
      <span className="flex-1">
        {t(exhibit.held ? 'exhibits.isHeld' : 'exhibits.is', called)}
        <span className="ml-2 text-ink2">{t(exhibit.shown ? 'exhibits.isShown' : 'exhibits.isUnseen')}</span>
      </span>
      {keeps && exhibit.shown && (
        <Button
          small
          aria-label={t('exhibits.takeDownOf', called)}
          onClick={() => void wish({ do: 'takeDown', exhibit: exhibit.number })}
        >
          {t('exhibits.takeDown')}
        </Button>
      )}
      {keeps && (
        <Button
          small
          aria-label={t('exhibits.closeOf', called)}
          onClick={() => void wish({ do: 'closeExhibit', exhibit: exhibit.number })}
        >
          {t('exhibits.close')}
        </Button>
      )}
    </li>
  )
}

import { useTranslation } from 'react-i18next'
import type { Arrangement, MeRow } from '../contract.generated'
import { namesOf } from '../i18n'
import { wish } from '../live/connection'
import { useLive } from '../live/store'
import { RibbonItem } from '../sittings/RibbonItem'
import { Button } from '../ui/Button'
import { Choice } from '../ui/Choice'
import { Tick } from '../ui/Field'
import { arrangements, toggleFullScreen, useArrangement, useFrontSeats, useIsShown, useView, view } from './view'

/** How people stand in the picture: for oneself, and by the bench for all. */
export function PictureItem({ me }: { me: MeRow }) {
  const { t } = useTranslation()
  const arrangement = useArrangement()
  const forAll = useLive((state) => state.sitting?.picture.setting ?? null)
  const { hidesNames, hidesCameraless } = useView()
  const front = useFrontSeats()
  const seats = useLive((state) => state.seats)
  const sets = me.may.includes('setPicture')
  const shown = useIsShown()
  const isSet = forAll !== null && forAll.arrangement !== null
  const inFront = front.map((id) => seats.get(id)?.name).filter((name) => name !== undefined)
  return (
    <RibbonItem
      label={t('ribbon.view')}
      value={isSet ? t('picture.forAllValue', { picture: t(`picture.${arrangement}`) }) : t(`picture.${arrangement}`)}
      title={t('picture.title')}
    >
      <div className="flex flex-col gap-2">
        {isSet && !sets ? (
          <p className="border-l-4 border-brass pl-2 text-[0.875rem]">
            {t('picture.setByBench', { picture: t(`picture.${arrangement}`) })}
          </p>
        ) : (
          <Choice<Arrangement>
            label={t('picture.title')}
            value={arrangement}
            options={arrangements
              .filter((one) => one !== 'exhibit' || shown || isSet)
              .map((value) => ({
                value,
                label: t(`picture.${value}`),
                hint: t(shown && value !== 'exhibit' ? `picture.${value}ShownHint` : `picture.${value}Hint`),
              }))}
            onChange={(to) =>
              isSet ? void wish({ do: 'setArrangement', to }) : view(shown ? { whenShown: to } : { arrangement: to })
            }
          />
        )}
        {sets && (
          <Tick
            label={t('picture.forAll')}
            checked={isSet}
            onChange={() => void wish({ do: 'setArrangement', to: isSet ? null : arrangement })}
          />
        )}
        {inFront.length > 0 && (
          <p className="flex items-center gap-2 border-t border-line pt-2 text-[0.875rem]">
            <span className="flex-1">
              {t((forAll?.front.length ?? 0) > 0 ? 'picture.inFrontForAll' : 'picture.inFrontForMe', {
                names: namesOf(inFront.slice(0, 3), inFront.length),
              })}
            </span>
            {((forAll?.front.length ?? 0) === 0 || sets) && (
              <Button
                small
                onClick={() =>
                  (forAll?.front.length ?? 0) > 0 ? void wish({ do: 'putInFront', seats: [] }) : view({ front: [] })
                }
              >
                {t('picture.freeFront')}
              </Button>
            )}
          </p>
        )}
        <div className="border-t border-line pt-2">
          <Tick label={t('picture.hideNames')} checked={hidesNames} onChange={(e) => view({ hidesNames: e.target.checked })} />
          <Tick
            label={t('picture.hideCameraless')}
            checked={hidesCameraless}
            onChange={(e) => view({ hidesCameraless: e.target.checked })}
          />
        </div>
        <Button className="self-start" onClick={toggleFullScreen}>
          {t('picture.fullScreen')}
        </Button>
      </div>
    </RibbonItem>
  )
}

import { clsx } from 'clsx'
import { useTranslation } from 'react-i18next'
import { useLive } from '../live/store'
import { useKeymap } from '../settings/keymap'
import { goToBay } from './selection'
import { useBoard } from './useBoard'
import { closeBoard, openBoard, toggleWide, useWide } from '../sittings/useWide'

const spines = {
  lobby: 'border-l-brass',
  floor: 'border-l-moss',
  seated: 'border-l-seat',
  gone: 'border-l-line',
}

/** The board as a narrow rail beside the widened picture: how many are in each bay. Each opens the board over the picture. */
export function BoardRail() {
  const { t } = useTranslation()
  const counts = useLive((state) => state.sitting?.counts)
  const board = useBoard('', 'all')
  const over = useWide((state) => state.boardOver)
  const key = useKeymap((state) => state.widen)
  if (!counts) return null
  const bays = [
    { bay: 'lobby', title: t('board.lobby'), count: counts.waiting, calls: counts.waiting > 0 ? 'bg-brass-soft' : '' },
    { bay: 'floor', title: t('floor.title'), count: board.floor.length, calls: board.floor.length > 0 ? 'bg-moss-soft' : '' },
    { bay: 'seated', title: t('board.seated'), count: board.inside.length, calls: '' },
    { bay: 'gone', title: t('board.gone'), count: counts.gone, calls: '' },
  ] as const
  return (
    <nav
      aria-label={t('wide.rail')}
      className="flex w-16 shrink-0 flex-col gap-1.5 border-r border-line bg-linen p-1.5 max-md:hidden"
    >
      {bays.map(({ bay, title, count, calls }) => (
        <button
          key={bay}
          aria-expanded={over}
          aria-label={t('wide.openBay', { bay: title, count })}
          onClick={() => {
            if (over) return void closeBoard()
            openBoard()
            goToBay(bay)
          }}
          className={clsx(
            'flex min-h-11 flex-col items-start justify-center border border-l-[5px] border-line px-1',
            `text-left hover:bg-felt-soft ${spines[bay]} ${calls}`,
          )}
        >
          <span className="max-w-full overflow-hidden text-[0.688rem] font-semibold text-ellipsis text-ink2">
            {t(`wide.short.${bay}`)}
          </span>
          <span className="text-[1rem] leading-none font-semibold">{count}</span>
        </button>
      ))}
      <button
        aria-label={t('wide.showBoard')}
        aria-keyshortcuts={key}
        onClick={toggleWide}
        className={clsx(
          'mt-auto flex min-h-12 flex-col items-center justify-center gap-1 rounded-sm border border-edge',
          'bg-paper text-[0.719rem] font-semibold hover:bg-felt-soft',
        )}
      >
        {t('wide.board')}
        <kbd aria-hidden className="rounded-sm border border-current px-1 font-sans text-[0.656rem]">
          {key}
        </kbd>
      </button>
    </nav>
  )
}

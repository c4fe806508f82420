import { create } from 'zustand'
import { kept } from '../settings/kept'
import type { Arrangement } from '../contract.generated'
import { useLive } from '../live/store'

export const arrangements: readonly Arrangement[] = ['lead', 'pair', 'even', 'exhibit']

interface View {
  arrangement: Arrangement
  /** The arrangement while something is shown. */
  whenShown: Arrangement
  /** Whom this reader put in front, for the reader alone. */
  front: readonly number[]
  hidesNames: boolean
  /** People without a camera are left out. */
  hidesCameraless: boolean
  /** People who find no room in the picture, or are left out. */
  hidden: number
}

const place = 'picture'

/** How this reader wants to see people. */
export const useView = create<View>(() => ({
  arrangement: 'lead',
  whenShown: 'exhibit',
  hidesNames: false,
  hidesCameraless: false,
  ...kept<View>(place),
  front: [],
  hidden: 0,
}))

export function view(change: Partial<View>) {
  useView.setState(change)
  const { arrangement, whenShown, hidesNames, hidesCameraless } = useView.getState()
  localStorage.setItem(place, JSON.stringify({ arrangement, whenShown, hidesNames, hidesCameraless }))
}

/** Puts somebody in front for oneself, or takes them from there. */
export const toggleFront = (seat: number) =>
  useView.setState(({ front }) => ({
    front: front.includes(seat) ? front.filter((one) => one !== seat) : [...front, seat].slice(-4),
  }))

const nobody: readonly number[] = []

/** Something is before all. */
export const useIsShown = () => useLive((state) => state.sitting?.shelf.exhibits.some((one) => one.shown) ?? false)

/** The arrangement that holds: the bench's for all, or else one's own. */
export const useArrangement = (): Arrangement => {
  const shown = useIsShown()
  const own = useView((state) => (shown ? state.whenShown : state.arrangement))
  return useLive((state) => state.sitting?.picture.setting?.arrangement ?? null) ?? own
}

/** Those in front: for all, or else for oneself. */
export const useFrontSeats = (): readonly number[] => {
  const own = useView((state) => state.front)
  const forAll = useLive((state) => state.sitting?.picture.setting?.front ?? nobody)
  return forAll.length > 0 ? forAll : own
}

/** Fills the screen with the picture, or leaves that. */
export function toggleFullScreen() {
  if (document.fullscreenElement) void document.exitFullscreen()
  else
    void document
      .querySelector('main')
      ?.requestFullscreen()
      .catch(() => undefined)
}

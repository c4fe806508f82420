import { create } from 'zustand'

interface Wide {
  /** Board and side are narrow rails, and the picture has the room. */
  wide: boolean
  /** The board lies over the widened picture. */
  boardOver: boolean
}

const place = 'wide'

export const useWide = create<Wide>(() => ({ wide: localStorage.getItem(place) === 'yes', boardOver: false }))

export function toggleWide() {
  const wide = !useWide.getState().wide
  localStorage.setItem(place, wide ? 'yes' : 'no')
  useWide.setState({ wide, boardOver: false })
}

/** Opens the board over the picture, where it is a rail. */
export const openBoard = () => useWide.setState(({ wide }) => ({ boardOver: wide }))

/** True when it lay over the picture. */
export function closeBoard(): boolean {
  const { boardOver } = useWide.getState()
  useWide.setState({ boardOver: false })
  return boardOver
}

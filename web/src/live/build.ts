import { create } from 'zustand'
import { useLive } from './store'

/** Which build of the server the page was loaded from, and whether another one answers now. */
export const useBuild = create<{ own: string | null; isOld: boolean }>(() => ({ own: null, isOld: false }))

export function takeBuild(build: string) {
  const { own } = useBuild.getState()
  if (own === null) useBuild.setState({ own: build })
  else if (own !== build) useBuild.setState({ isOld: true })
}

/** Somebody types something that would be lost. */
const types = () => {
  const field = document.activeElement
  return (field instanceof HTMLInputElement || field instanceof HTMLTextAreaElement) && field.value !== ''
}

/** Nothing would be interrupted: one neither speaks nor has the floor, shows nothing of one's own, records nothing, types nothing. */
export function isQuiet(): boolean {
  const { me, sitting } = useLive.getState()
  if (!me || !sitting) return true
  return (
    me.microphone !== 'open' &&
    sitting.floor.turn?.seat !== me.seat &&
    !me.exhibits.some((one) => one.kind === 'screen') &&
    !sitting.recording.own.some((one) => one.seat === me.seat) &&
    !types()
  )
}

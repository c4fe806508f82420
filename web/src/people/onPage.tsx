import { switches } from '../media/useOwnDevices'
import { closeBoard, openBoard } from '../sittings/useWide'
import type { PageTopic } from '../topics/slots'
import { acts } from './acts'
import { askFor, clearSelection, goToBay, selectShown, target } from './selection'

const bay = (label: string) => () => {
  openBoard()
  goToBay(label)
}

/** One's own switches. */
export const own: PageTopic = { acts: () => ({ mic: switches.microphone, cam: switches.camera, hand: switches.hand }) }

/** The board. */
export const people: PageTopic = {
  acts: () => ({
    mute: () => void acts.muteOrAsk(target()),
    muteAll: () => void acts.muteAll(false),
    role: askFor('role'),
    remove: askFor('remove'),
    find: () => {
      openBoard()
      requestAnimationFrame(() => document.querySelector<HTMLElement>('[data-find]')?.focus())
    },
    selectAll: selectShown,
    clear: () => {
      if (!closeBoard()) clearSelection()
    },
  }),
  letters: { l: bay('lobby'), f: bay('floor'), s: bay('seated'), g: bay('gone') },
}

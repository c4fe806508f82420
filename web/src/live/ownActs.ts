import type { SeatCommand } from '../contract.generated'

/** What can change about oneself by one's own hand as well as by another's. */
export type Own = 'microphone' | 'camera' | 'hand' | 'floor' | 'name' | 'screen' | 'opening' | 'paging' | 'asking'

const all: readonly Own[] = ['microphone', 'camera', 'hand', 'floor', 'name']

/** What a command may take from whoever sends it, which then need not be told. */
function takes(command: SeatCommand): readonly Own[] {
  switch (command.do) {
    case 'closeMicrophone':
      return ['microphone']
    case 'turnCamera':
      return command.on ? [] : ['camera']
    case 'raiseHand':
    case 'lowerHand':
      return ['hand']
    case 'yieldFloor':
      return ['floor', 'hand', 'microphone']
    case 'rename':
      return ['name']
    case 'handPaging':
      return ['paging']
    case 'askToShow':
      return command.on ? [] : ['asking']
    case 'openScreen':
      return ['screen', 'opening']
    case 'showExhibit':
    case 'holdScreen':
    case 'takeDown':
    case 'closeExhibit':
      return ['screen', 'paging']
    case 'giveFloor':
    case 'takeFloor':
    case 'nextItem':
    case 'turnToItem':
    case 'takeBack':
      return all
    default:
      return []
  }
}

/** After so long, in milliseconds, a change is another's. */
const patience = 1500

const since = new Map<Own, number>()

/** Keeps in mind what is about to change by one's own hand. A microphone or camera that is opened is no longer being closed. */
export function noteOwnAct(command: SeatCommand, now: number) {
  if (command.do === 'openMicrophone') since.delete('microphone')
  if (command.do === 'turnCamera') since.delete('camera')
  if (command.do === 'askToShow') since.delete('asking')
  for (const own of takes(command)) since.set(own, now)
}

/** Whether a change that is seen now comes from one's own hand. */
export const isOwnAct = (own: Own, now: number) => now - (since.get(own) ?? -Infinity) < patience

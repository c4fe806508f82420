import type { Role, SeatRow } from '../contract.generated'
import { wish } from '../live/connection'
import { aimedMicrophone } from '../live/store'

const ids = (seats: readonly SeatRow[]) => seats.map((seat) => seat.id)

export const waiting = (seats: readonly SeatRow[]) => seats.filter((seat) => seat.place === 'lobby')
export const seated = (seats: readonly SeatRow[]) => seats.filter((seat) => seat.place === 'seated')
export const open = (seats: readonly SeatRow[]) => seated(seats).filter((seat) => aimedMicrophone(seat) === 'open')
export const consenting = (seats: readonly SeatRow[]) =>
  seated(seats).filter((seat) => aimedMicrophone(seat) !== 'open' && seat.note?.consents)
export const askable = (seats: readonly SeatRow[]) =>
  seated(seats).filter((seat) => aimedMicrophone(seat) !== 'open' && !seat.note?.asked && !seat.note?.consents)
export const filmed = (seats: readonly SeatRow[]) => seated(seats).filter((seat) => seat.cameraOn)
export const raised = (seats: readonly SeatRow[]) => seats.filter((seat) => seat.hand !== null)
export const present = (seats: readonly SeatRow[]) => seats.filter((seat) => seat.place !== 'gone')

/** What the bench does to strips; the server decides whom it touches. */
export const acts = {
  admit: (seats: readonly SeatRow[], as: Role = 'attendee') => wish({ do: 'admit', seats: ids(waiting(seats)), as }),
  next: () => wish({ do: 'next' }),
  admitSure: () => wish({ do: 'admitSure' }),
  decline: (seats: readonly SeatRow[], words: string) => wish({ do: 'decline', seats: ids(waiting(seats)), words }),
  mute: (seats: readonly SeatRow[]) => wish({ do: 'mute', seats: ids(open(seats)) }),
  unmute: (seats: readonly SeatRow[]) => wish({ do: 'unmute', seats: ids(consenting(seats)) }),
  ask: (seats: readonly SeatRow[]) => wish({ do: 'askToUnmute', seats: ids(askable(seats)) }),
  camerasOff: (seats: readonly SeatRow[]) => wish({ do: 'camerasOff', seats: ids(filmed(seats)) }),
  sendToLobby: (seats: readonly SeatRow[]) => wish({ do: 'sendToLobby', seats: ids(seated(seats)) }),
  giveRole: (seats: readonly SeatRow[], role: Role) => wish({ do: 'giveRole', seats: ids(present(seats)), role }),
  remove: (seats: readonly SeatRow[], mayReturn: boolean) => wish({ do: 'remove', seats: ids(present(seats)), mayReturn }),
  /** Without a seat, to the first of the queue. */
  giveFloor: (seat: number | null = null) => wish({ do: 'giveFloor', seat, seconds: null }),
  takeFloor: () => wish({ do: 'takeFloor' }),
  lowerHands: (seats: readonly SeatRow[]) => wish({ do: 'lowerHands', seats: ids(raised(seats)) }),
  putInFront: (seats: readonly SeatRow[]) => wish({ do: 'putInFront', seats: ids(seated(seats)) }),
  muteAll: (presenters: boolean) => wish({ do: 'muteAll', presenters }),
  /** Mutes those who are open; when none is, asks them to unmute. The wish says which: what is so already is done. */
  muteOrAsk(seats: readonly SeatRow[]) {
    if (open(seats).length > 0) return acts.mute(seats)
    return consenting(seats).length > 0 ? acts.unmute(seats) : acts.ask(seats)
  },
}

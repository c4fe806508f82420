import type { TFunction } from 'i18next'
import type { RoomForm, SeatRow } from '../contract.generated'
import type { Sitting } from '../live/store'

/** A room by its name, or by its place among the others. */
export const roomName = (t: TFunction, { name, ordinal }: { name: string; ordinal: number }) =>
  name || t('rooms.numbered', { number: ordinal })

export const newForm = (count: number): RoomForm => ({
  rooms: Array.from({ length: count }, () => ({ name: '', task: null, leads: [], people: [], shows: null })),
  spread: 'mixed',
  notAgain: true,
  together: [],
  apart: [],
  task: null,
  minutes: 15,
  late: 'smallestRoom',
  mayGoBack: true,
  mayListen: false,
  keepsChat: false,
  seed: 1,
  shows: null,
})

/** Those whom a plan puts into rooms: the bench stays in the hall. */
export const belongsInRooms = (seat: SeatRow) =>
  seat.place === 'seated' && (seat.role === 'attendee' || seat.role === 'presenter')

const names = (line: string) =>
  line
    .split(',')
    .map((name) => name.trim())
    .filter(Boolean)

export const linesOf = (text: string) => text.split('\n').map((line) => line.trim())

/** Sets of names, one a line. */
export const setsOf = (text: string) =>
  linesOf(text)
    .map((line) => ({ names: names(line) }))
    .filter((set) => set.names.length > 1)

export const namesIn = names

export interface RoomBay {
  /** As a wish to move people there calls it. */
  room: number
  name: string
  /** Of an open room, or null in a plan. */
  row: Sitting['rooms']['open'][number] | null
  seats: readonly SeatRow[]
}

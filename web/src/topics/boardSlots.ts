import type { TFunction } from 'i18next'
import type { ComponentType, DragEvent, ReactNode } from 'react'
import type { BenchNote, SeatRow } from '../contract.generated'

export interface OfSeat {
  seat: SeatRow
}

/** Words below a name, for as long as the hook gives some; those of one strip stand in the order of their numbers. */
export interface StripWords {
  /** Up to 39 they stand alone, the first that there are; from 40 to 59 together; from 60 on alone again, where none of these stands. */
  at: number
  use: (seat: SeatRow, note: BenchNote, t: TFunction) => string | null
}

/** What can be done from the board's head, among the others by its number; draws nothing where it touches nobody. */
export interface HeadAct<P> {
  at: number
  Act: ComponentType<P>
}

/** What a topic adds to the board. */
export interface BoardTopic {
  words?: readonly StripWords[]
  /** A button on the strip. */
  act?: HeadAct<OfSeat>
  /** What counts there in place of how long somebody is where they are; null where nothing does, and then the next is asked. */
  clock?: { at: number; use: (seat: SeatRow) => ReactNode }
  /** What a strip carries when it is dragged; null where it stays. */
  useCarry?: (seat: SeatRow) => ((event: DragEvent) => void) | null
  forAll?: readonly HeadAct<{ people: readonly SeatRow[] }>[]
  forChosen?: readonly HeadAct<{ chosen: readonly SeatRow[] }>[]
}

import { defaultRangeExtractor, useVirtualizer, type Range } from '@tanstack/react-virtual'
import { useCallback, useLayoutEffect, useRef, useState, type RefObject } from 'react'
import type { SeatRow } from '../contract.generated'
import { useStripHeight } from '../settings/store'
import { Strip } from './Strip'

interface Props {
  label: string
  /** Its name for keys. */
  bay: string
  seats: readonly SeatRow[]
  selected: ReadonlySet<number>
  focusable: number | undefined
  /** In the bays above this one. */
  stripsAbove: number
  /** What the bay scrolls in, together with the others. */
  scroller: RefObject<HTMLElement | null>
}

/** The strips of one bay. Only those in sight are drawn, and the one that has the focus. */
export function Bay({ label, bay, seats, selected, focusable, stripsAbove, scroller }: Props) {
  const height = useStripHeight()
  const list = useRef<HTMLUListElement>(null)
  const [above, setAbove] = useState(0)
  // What stands above moves whenever another bay grows.
  useLayoutEffect(() => {
    if (list.current) setAbove(list.current.offsetTop)
  }, [stripsAbove])
  const kept = seats.findIndex((seat) => seat.id === focusable)
  // No compiler memoizes here, so nothing of it gets stale.
  // eslint-disable-next-line react-hooks/incompatible-library
  const virtual = useVirtualizer({
    count: seats.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => height,
    getItemKey: useCallback((at: number) => seats[at]!.id, [seats]),
    overscan: 6,
    scrollMargin: above,
    // A bay that appears leaves the board where it stands.
    initialOffset: () => scroller.current?.scrollTop ?? 0,
    initialRect: { width: 388, height: 640 },
    rangeExtractor: useCallback(
      (range: Range) => {
        const shown = defaultRangeExtractor(range)
        return kept < 0 || shown.includes(kept) ? shown : [...shown, kept].sort((a, b) => a - b)
      },
      [kept],
    ),
  })
  return (
    <ul ref={list} data-bay={bay} aria-label={label} className="relative mx-2 mb-1" style={{ height: seats.length * height }}>
      {virtual.getVirtualItems().map(({ index, key }) => {
        const seat = seats[index]
        return (
          seat && (
            <Strip
              key={key}
              seat={seat}
              top={index * height}
              height={height - 2}
              place={index + 1}
              of={seats.length}
              selected={selected.has(seat.id)}
              focusable={seat.id === focusable}
            />
          )
        )
      })}
    </ul>
  )
}

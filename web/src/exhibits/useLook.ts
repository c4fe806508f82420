import { useEffect, useLayoutEffect, useRef, useState } from 'react'
import type { ExhibitRow, MeRow } from '../contract.generated'
import { wish } from '../live/connection'
import { wholeLook, type Look } from './look'

/** What is looked at is told to all at this beat, in milliseconds, while it changes. */
const beat = 250
/** The hand's own look holds for so long, in milliseconds, after it last moved. */
const holds = 900

/**
 * How this page looks at an exhibit. Whoever has the paging looks for all; everybody else may look closer alone, and page alone where
 * that is allowed, and comes back.
 */
export function useLook(exhibit: ExhibitRow, me: MeRow) {
  const { pages } = exhibit
  const leads =
    pages !== null &&
    (pages.holder === me.seat || (pages.holder === null && me.may.includes(me.room === null ? 'keepExhibits' : 'exhibit')))
  const [own, setOwn] = useState<Look | null>(null)
  const [page, setPage] = useState<number | null>(null)
  const [hand, setHand] = useState<Look | null>(null)
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined)
  const rest = useRef<ReturnType<typeof setTimeout>>(undefined)
  const latest = useRef<Look | null>(null)
  const roams = !leads && pages !== null && pages.secret !== null && pages.count > 1
  const at = (roams ? page : null) ?? pages?.at ?? 1
  const apart = own !== null || (roams && page !== null && page !== pages.at)
  // Another page is looked at whole.
  const [turnedTo, setTurnedTo] = useState(at)
  if (turnedTo !== at) {
    setTurnedTo(at)
    setOwn(null)
    setHand(null)
  }
  useEffect(
    () => () => {
      clearTimeout(timer.current)
      clearTimeout(rest.current)
    },
    [],
  )
  const shared = pages?.view ?? wholeLook
  const look = leads ? (hand ?? shared) : (own ?? shared)
  const current = useRef(look)
  useLayoutEffect(() => {
    current.current = look
  })
  const change = (next: (now: Look) => Look) => {
    const look = next(current.current)
    current.current = look
    if (!leads) return setOwn(look.scale <= 1 && look.turn === shared.turn && shared.scale <= 1 ? null : look)
    setHand(look)
    latest.current = look
    timer.current ??= setTimeout(() => {
      timer.current = undefined
      if (latest.current) void wish({ do: 'lookAt', view: latest.current, exhibit: exhibit.number })
    }, beat)
    clearTimeout(rest.current)
    rest.current = setTimeout(() => setHand(null), holds)
  }
  const turnTo = (to: number) => {
    if (!pages || to < 1 || to > pages.count || to === at) return
    if (leads) void wish({ do: 'turnPage', page: to, exhibit: exhibit.number })
    else if (roams) setPage(to === pages.at ? null : to)
  }
  return {
    look,
    page: at,
    change,
    turnTo,
    /** Turns the pages for all. */
    leads,
    /** May turn pages, for all or alone. */
    mayTurn: leads || roams,
    /** Looks at something else than all do. */
    apart,
    back: () => {
      setOwn(null)
      setPage(null)
    },
  }
}

import { useEffect, useRef } from 'react'
import type { MeRow } from '../contract.generated'

/** Whoever has just been named as a captioner is led to the desk. */
export function useNamed(me: MeRow, go: () => void) {
  const captions = me.captioner !== null
  const was = useRef(false)
  useEffect(() => {
    if (captions && !was.current) go()
    was.current = captions
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only being named leads there
  }, [captions])
}

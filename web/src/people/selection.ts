import { create } from 'zustand'

export type ActPanel = 'role' | 'remove' | 'decline' | 'admitAs'

interface Selection {
  selected: ReadonlySet<number>
  /** The strip that keys move from. */
  at: number | null
  /** Where a Shift selection starts. */
  anchor: number | null
  panel: ActPanel | null
  /** The person whose strip is open. */
  opened: number | null
}

const none: Selection = { selected: new Set(), at: null, anchor: null, panel: null, opened: null }

export const useSelection = create<Selection>(() => none)

export const clearSelection = () => useSelection.setState({ selected: new Set(), anchor: null, panel: null })

/** A click selects one; with Ctrl one more or less; with Shift all from the last to here. */
export function click(id: number, order: readonly number[], { shift, ctrl }: { shift: boolean; ctrl: boolean }) {
  const { selected, anchor } = useSelection.getState()
  if (shift && anchor !== null && order.includes(anchor)) {
    const [from, to] = [order.indexOf(anchor), order.indexOf(id)].sort((a, b) => a - b)
    return useSelection.setState({ selected: new Set(order.slice(from, to! + 1)), at: id })
  }
  if (ctrl) return toggle(id)
  const only = selected.size === 1 && selected.has(id)
  useSelection.setState({ selected: only ? new Set() : new Set([id]), anchor: id, at: id })
}

export function toggle(id: number) {
  const selected = new Set(useSelection.getState().selected)
  if (!selected.delete(id)) selected.add(id)
  useSelection.setState({ selected, anchor: id, at: id })
}

import { create } from 'zustand'

/** The panels of the ribbon that a key opens as well as a hand; one at a time. */
type Name = 'door' | 'recording' | 'settings'

const usePanels = create<{ open: Name | null }>(() => ({ open: null }))

export const openPanel = (name: Name) => usePanels.setState({ open: name })

export function usePanel(name: Name): { open: boolean; onOpenChange: (open: boolean) => void } {
  const open = usePanels((state) => state.open === name)
  return { open, onOpenChange: (next) => usePanels.setState({ open: next ? name : null }) }
}

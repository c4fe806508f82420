import { create } from 'zustand'

export type Arrangement = 'even' | 'lead'

/** How this reader wants to see people. */
export const useView = create<{ arrangement: Arrangement; /** People who find no room in the picture. */ hidden: number }>(
  () => ({
    hidden: 0,
    arrangement: localStorage.getItem('arrangement') === 'even' ? 'even' : 'lead',
  }),
)

export function arrange(arrangement: Arrangement) {
  localStorage.setItem('arrangement', arrangement)
  useView.setState({ arrangement })
}

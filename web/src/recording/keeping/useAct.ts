import { useMutation, useQueryClient } from '@tanstack/react-query'

/** Does something with the recording, and looks at it anew. */
export function useAct<T>(id: string, act: (wish: T) => Promise<unknown>, then?: () => void) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: act,
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: ['recording', id] })
      await queries.invalidateQueries({ queryKey: ['recordings'] })
      then?.()
    },
  })
}

import { useQueryClient } from '@tanstack/react-query'
import { useTranslation } from 'react-i18next'
import type { SeatCommand } from '../contract.generated'
import { wish } from '../live/connection'
import { tell } from '../live/store'

/** Puts something among the session's papers, and says so. */
export function useKeep(link: string) {
  const { t } = useTranslation()
  const queries = useQueryClient()
  return async (command: SeatCommand, name: string): Promise<boolean> => {
    if (!(await wish(command))) return false
    tell(t('files.keptNow', { file: name }))
    await queries.invalidateQueries({ queryKey: ['papers', link] })
    return true
  }
}

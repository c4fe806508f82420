import { useTranslation } from 'react-i18next'
import type { SeatRow } from '../contract.generated'
import { actsForAll, actsForChosen } from '../topics/onBoard'
import { Button } from '../ui/Button'
import { clearSelection } from './selection'

/** What can be done now, in words, with how many it touches. The head keeps its height, so that no strip moves under the hand. */
export function BoardHead({ people, chosen }: { people: readonly SeatRow[]; chosen: readonly SeatRow[] }) {
  const { t } = useTranslation()
  return (
    <div
      role="group"
      aria-label={t('board.actions')}
      className="flex min-h-[4.75rem] flex-wrap content-center items-center gap-x-1.5 gap-y-1 border-b border-line px-3 py-1"
    >
      {chosen.length > 0 ? (
        <>
          {actsForChosen.map(({ at, Act }) => (
            <Act key={at} chosen={chosen} />
          ))}
          <Button small look="text" onClick={clearSelection}>
            {t('board.clear')}
          </Button>
        </>
      ) : (
        actsForAll.map(({ at, Act }) => <Act key={at} people={people} />)
      )}
    </div>
  )
}

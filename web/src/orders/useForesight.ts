import { useEffect, useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { ForesightRow, SeatCommand } from '../contract.generated'
import { namesOf } from '../i18n'
import { questions } from '../live/connection'
import { useLive } from '../live/store'

/** What each of these wishes would do, asked anew whenever the sitting changes. Null until it is known. */
export function useForesight(commands: readonly SeatCommand[]): readonly (ForesightRow | null)[] {
  const v = useLive((state) => state.v)
  const wanted = JSON.stringify(commands)
  const [known, setKnown] = useState<{ wanted: string; rows: readonly (ForesightRow | null)[] }>({ wanted: '', rows: [] })
  useEffect(() => {
    let stale = false
    const asked = JSON.parse(wanted) as SeatCommand[]
    void Promise.all(asked.map((command) => questions.foresee(command))).then((rows) => {
      if (!stale) setKnown({ wanted, rows })
    })
    return () => {
      stale = true
    }
  }, [wanted, v])
  return known.wanted === wanted ? known.rows : commands.map(() => null)
}

/** Who gains and who loses what: "Nia and Ben lose: speak". */
export function useShifts() {
  const { t } = useTranslation()
  return (row: ForesightRow | null): string[] =>
    (row?.shifts ?? []).map(({ capability, gains, count, names }) =>
      t(gains ? 'foresight.gain' : 'foresight.lose', {
        count,
        names: namesOf(names, count),
        what: t(`capability.${capability}`),
      }),
    )
}

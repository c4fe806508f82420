import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query'
import { lazy, Suspense, useState } from 'react'
import { useTranslation } from 'react-i18next'
import { useLocation, useNavigate, useParams } from 'react-router'
import { door, Refused } from '../api/client'
import { Placard } from '../ui/Placard'
import { Failed, Loading } from '../ui/States'
import { CheckPage } from './CheckPage'
import { Barred, LockedDoor } from './Farewells'
import { useDoorStream } from './useDoorStream'

const SittingPage = lazy(() => import('../sittings/SittingPage'))

/** Where a link leads: to the check page, to the seat this browser holds, or to a closed door. */
export function DoorPage() {
  const { t } = useTranslation()
  const { link = '' } = useParams()
  const { hash } = useLocation()
  const navigate = useNavigate()
  const queries = useQueryClient()
  const [locked, setLocked] = useState<string | null>(null)
  const [inside, setInside] = useState<string | null>(null)
  const page = useQuery({
    // Another link, shown in the same tab, is another question.
    queryKey: ['door', link, ...(hash ? [hash] : [])],
    placeholderData: keepPreviousData,
    queryFn: async () => {
      const found = await door.page(link, hash.slice(1) || null)
      // From here on the browser is known by a cookie, and no history keeps the token.
      if (hash && !found.invitationGone) void navigate(`/s/${link}`, { replace: true })
      return found
    },
    refetchOnWindowFocus: !inside,
  })
  const waits =
    inside === null && page.data !== undefined && !page.data.holdsSeat && page.data.phase !== 'over' && !page.data.cancelled
  const broken = useDoorStream(link, waits, () => void page.refetch())

  if (page.error instanceof Refused && page.error.reason === 'noSuchLink')
    return (
      <Placard title={t('check.noLink')} spine="brick">
        <p>{t('check.noLinkHint')}</p>
      </Placard>
    )
  if (page.error && !page.data) return <Failed sentence={page.error.message} onRetry={() => void page.refetch()} />
  if (!page.data) return <Loading />
  const found = page.data
  const again = () => {
    setLocked(null)
    setInside(null)
    void queries.invalidateQueries({ queryKey: ['door', link] })
  }
  const sitting = inside ?? (found.holdsSeat ? found.sitting : null)
  if (sitting)
    return (
      <Suspense fallback={<Loading />}>
        <SittingPage sitting={sitting} link={link} onDoor={again} />
      </Suspense>
    )
  if (found.barred) return <Barred title={found.title} host={found.hostName} />
  if (locked !== null || (found.lock && !found.lock.lateWait && found.entry === 'announce'))
    return <LockedDoor title={found.title} host={found.hostName} words={locked ?? found.lock?.words ?? ''} onAgain={again} />
  return <CheckPage link={link} page={found} broken={broken} onLocked={setLocked} onInside={setInside} />
}

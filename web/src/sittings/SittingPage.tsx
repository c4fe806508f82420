import { lazy, Suspense, useEffect } from 'react'
import { useTranslation } from 'react-i18next'
import { AdjournedPage, DeclinedPage, LeftPage, RemovedPage, SupersededPage, VisitOverPage } from '../admission/Farewells'
import { WaitingPage } from '../admission/WaitingPage'
import { door } from '../api/client'
import type { MeRow } from '../contract.generated'
import type { Sitting } from '../live/store'
import { media } from '../media/engine'
import { OnTopWindow } from '../exhibits/OnTop'
import { useOwnScreen } from '../exhibits/ownScreen'
import { silence, useOwnDevices } from '../media/useOwnDevices'
import { Boundary } from '../ui/Boundary'
import { SeatPage } from './SeatPage'
import { Loading } from '../ui/States'
import { join, part } from '../live/connection'
import { useLive } from '../live/store'
import { useTellChanges } from '../live/useTellChanges'

const BenchPage = lazy(() => import('./BenchPage'))

interface Props {
  sitting: string
  link: string
  onDoor: () => void
}

/** The page of somebody who holds a seat: bench, seat, lobby, or a farewell, as the server's state says. */
export default function SittingPage({ sitting, link, onDoor }: Props) {
  const { t } = useTranslation()
  const { line, me, sitting: row } = useLive()
  // Whoever goes back by the browser leaves the line, the camera and the microphone, and keeps the seat.
  useEffect(() => {
    join(sitting)
    return part
  }, [sitting])
  useOwnDevices()
  useOwnScreen()
  useTellChanges()
  const leave = () => {
    part()
    onDoor()
  }
  useEffect(() => {
    if (line === 'noSeat') leave()
  })
  if (line === 'superseded') return <SupersededPage title={row?.session.title ?? t('product')} onTake={() => join(sitting)} />
  if (!me || !row) return <Loading />
  if (row.session.phase === 'adjourned')
    return (
      <AdjournedPage
        id={sitting}
        title={row.session.title}
        lasted={(row.session.adjournedAt ?? row.session.openedAt) - row.session.openedAt}
        isHost={me.role === 'host'}
        polls={me.viewer === 'bench' && row.polls.over.length > 0}
        rounds={me.viewer === 'bench' && row.rooms.rounds > 0}
      />
    )
  if (me.place === 'gone')
    return <Gone me={me} row={row} onAgain={leave} onBack={() => void comeBack(link, me.name).catch(leave)} />
  if (me.place === 'lobby') return <WaitingPage me={me} sitting={row} />
  return (
    <>
      {me.viewer === 'bench' ? (
        <Boundary place="page" onFailure={silence}>
          <Suspense fallback={<Loading />}>
            <BenchPage me={me} sitting={row} id={sitting} link={link} />
          </Suspense>
        </Boundary>
      ) : (
        <Boundary place="page" onFailure={silence}>
          <SeatPage me={me} sitting={row} id={sitting} link={link} />
        </Boundary>
      )}
      <Boundary place="card">
        <OnTopWindow />
      </Boundary>
    </>
  )
}

/** Whoever left keeps the seat, so nothing is asked again; the live line tells the rest. */
const comeBack = (link: string, name: string) => {
  media.allowSound()
  return door.announce(link, { name, passcode: null, invitation: null })
}

function Gone({ me, row, onAgain, onBack }: { me: MeRow; row: Sitting; onAgain: () => void; onBack: () => void }) {
  const shared = { title: row.session.title, host: row.session.hostName, onAgain }
  switch (me.exit) {
    case 'declined':
      return <DeclinedPage {...shared} words={me.words} />
    case 'removed':
    case 'removedForGood':
      return <RemovedPage {...shared} forGood={me.exit === 'removedForGood'} />
    case 'visitOver':
      return <VisitOverPage {...shared} />
    default:
      return <LeftPage title={row.session.title} isHost={me.role === 'host'} onAgain={onBack} />
  }
}

import { HubConnectionBuilder, HubConnectionState, LogLevel, type HubConnection } from '@microsoft/signalr'
import type { Joined, MeRow, OutlookRow, Refusal, SeatCommand, ViewChange, WholeView } from '../contract.generated'
import { useOutlook } from '../docket/outlook'
import { t } from '../i18n'
import { media } from '../media/engine'
import { applyChange, resetLive, takeWhole, tell, useLive } from './store'

/** Keeps trying: half a second at first, never more than five apart. */
const patience = {
  nextRetryDelayInMilliseconds: ({ previousRetryCount: n }: { previousRetryCount: number }) => Math.min(5000, 500 * 2 ** n),
}

let hub: HubConnection | null = null
let wanted: string | null = null

/** Joins a sitting with the seat this browser holds. Does nothing when it is joined already. */
export function join(sitting: string) {
  if (wanted === sitting) return
  part()
  wanted = sitting
  const built = new HubConnectionBuilder()
    .withUrl(`/live?sitting=${sitting}`)
    .withAutomaticReconnect(patience)
    .withServerTimeout(20_000)
    .withKeepAliveInterval(7_000)
    .configureLogging(LogLevel.None)
    .build()
  hub = built
  built.on('joined', ({ me, view }: Joined) => {
    takeWhole(view)
    useLive.setState({ me, line: 'up' })
    media.connect(() => built.invoke<string | null>('MediaTicket'))
  })
  built.on('whole', (view: WholeView) => takeWhole(view))
  built.on('change', (change: ViewChange) => {
    if (!applyChange(change)) void built.invoke<WholeView | null>('Whole').then((view) => view && takeWhole(view))
  })
  built.on('me', (me: MeRow) => useLive.setState({ me }))
  built.on('outlook', (outlook: OutlookRow) => useOutlook.setState({ outlook }))
  built.on('superseded', () => end('superseded'))
  built.on('noSeat', () => end('noSeat'))
  built.on('rejoin', () => void restart(built))
  built.onreconnecting(() => useLive.setState({ line: 'lost' }))
  void start(built)
}

/** Leaves the line; the seat stays. */
export function part() {
  wanted = null
  media.disconnect()
  void hub?.stop()
  hub = null
  useOutlook.setState({ outlook: null })
  resetLive()
}

function end(line: 'superseded' | 'noSeat') {
  media.disconnect()
  void hub?.stop()
  hub = null
  wanted = null
  useLive.setState({ line })
}

async function start(built: HubConnection, tries = 0): Promise<void> {
  try {
    await built.start()
  } catch {
    if (hub !== built) return
    useLive.setState({ line: 'lost' })
    await new Promise((wait) => setTimeout(wait, Math.min(5000, 500 * 2 ** tries)))
    if (hub === built) await start(built, tries + 1)
  }
}

async function restart(built: HubConnection) {
  await built.stop()
  if (hub === built) await start(built)
}

/** Sends a wish. A refusal is told to the reader, with who could change it. */
export async function wish(command: SeatCommand): Promise<boolean> {
  if (hub?.state !== HubConnectionState.Connected) {
    tell(t('connection.lost'), 'refusal')
    return false
  }
  try {
    const refusal = await hub.invoke<Refusal | null>('Do', command)
    if (!refusal) return true
    tell(t(`reason.${refusal.reason}`, { host: useLive.getState().sitting?.hostName ?? t('farewell.theHost') }), 'refusal')
  } catch {
    tell(t('reason.offline'), 'refusal')
  }
  return false
}

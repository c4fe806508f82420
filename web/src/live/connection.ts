import { HttpTransportType, HubConnectionBuilder, HubConnectionState, LogLevel, type HubConnection } from '@microsoft/signalr'
import { playMessage } from '../admission/arrivals'
import { forgetCaptions, takeCaptions } from '../captions/store'
import { takeMessages, takePage, useChat } from '../chat/store'
import type {
  CaptionRow,
  ChatPage,
  ChatWish,
  DriveInput,
  ForesightRow,
  GonePage,
  Joined,
  LedgerPage,
  LedgerWish,
  MarkActRow,
  MarkWish,
  MeRow,
  MessageRow,
  NamedPreset,
  OutlookRow,
  PersonRow,
  ReadingRow,
  Refusal,
  SeatCommand,
  SignRow,
  StrokeRow,
  StrokeWish,
  TroubleRow,
  ViewChange,
  WholeView,
} from '../contract.generated'
import i18next from 'i18next'
import { useOutlook } from '../docket/outlook'
import { t } from '../i18n'
import { deedOf } from '../ledger/sentence'
import { media } from '../media/engine'
import { useSettings } from '../settings/store'
import { serverNow, setClock } from './time'
import { forgetLayers, takeAct, takeStrokes } from '../drawing/store'
import { useGone } from '../people/gone'
import { useTrouble } from '../people/trouble'
import { showSigns } from '../signs/store'
import { noteOwnAct } from './ownActs'
import { takeBuild } from './build'
import { applyChange, resetLive, takeMe, takeWhole, tell, useLive } from './store'

/** Keeps trying: half a second at first, never more than five apart, and not all pages at the same moment. */
const pauseAfter = (tries: number) => Math.min(5000, 500 * 2 ** tries) * (0.8 + Math.random() * 0.4)

/** A line that is open and brings no seat for so long, in milliseconds, is no line. */
const joiningTakes = 15_000

let hub: HubConnection | null = null
let wanted: string | null = null
let tries = 0
let joining: ReturnType<typeof setTimeout> | undefined

/** Joins a sitting with the seat this browser holds. Does nothing when it is joined already. */
export function join(sitting: string) {
  if (wanted === sitting) return
  part()
  wanted = sitting
  const built = new HubConnectionBuilder()
    // Pictures and voices need web sockets too, so another way would only hide that they are missing.
    .withUrl(`/live?sitting=${sitting}`, { transport: HttpTransportType.WebSockets, skipNegotiation: true })
    .withServerTimeout(20_000)
    .withKeepAliveInterval(7_000)
    .configureLogging(LogLevel.None)
    .build()
  hub = built
  built.on('joined', ({ me, view, chat, captions, trouble, now, build }: Joined) => {
    takeBuild(build)
    clearTimeout(joining)
    tries = 0
    setClock(now)
    useGone.setState({ rows: [] })
    forgetLayers()
    takeWhole(view, me)
    takePage(chat)
    takeCaptions(captions, 0)
    useTrouble.setState(trouble)
    useLive.setState({ line: 'up' })
    media.connect(() => ask<string>('MediaTicket'))
  })
  built.on('whole', (view: WholeView) => {
    // What was said elsewhere is left there.
    if (view.sitting.rooms?.here !== useLive.getState().sitting?.rooms.here) forgetCaptions()
    takeWhole(view)
    // Another kind of viewer may read other messages.
    void renewChat()
  })
  built.on('change', (change: ViewChange) => {
    if (!applyChange(change)) void ask<WholeView>('Whole').then((view) => view && takeWhole(view))
  })
  built.on('me', (me: MeRow) => {
    // Only what comes after the whole view belongs to it.
    if (useLive.getState().line === 'up') takeMe(me)
  })
  built.on('outlook', (outlook: OutlookRow) => useOutlook.setState({ outlook }))
  built.on('messages', (rows: MessageRow[]) => {
    takeMessages(rows)
    if (useSettings.getState().messageSound && rows.some(isForMe)) playMessage()
  })
  built.on('captions', (rows: CaptionRow[]) => takeCaptions(rows, serverNow()))
  built.on('signs', (signs: SignRow[]) => showSigns(signs))
  built.on('mark', (act: MarkActRow) => takeAct(sitting, act))
  built.on('strokes', (rows: StrokeRow[]) => takeStrokes(rows, useLive.getState().me?.seat))
  built.on('trouble', (trouble: TroubleRow) => useTrouble.setState(trouble))
  built.on('superseded', () => end('superseded'))
  built.on('noSeat', () => end('noSeat'))
  built.on('rejoin', () => void built.stop())
  // Whatever ended it, and however often: as long as the seat is wanted, the line is taken up again.
  built.onclose(() => startAgain(built))
  void start(built)
}

/** Leaves the line; the seat stays. */
export function part() {
  wanted = null
  clearTimeout(joining)
  media.disconnect()
  void hub?.stop()
  hub = null
  useOutlook.setState({ outlook: null })
  useTrouble.setState({ slow: [] })
  useGone.setState({ rows: [] })
  useChat.setState(useChat.getInitialState(), true)
  forgetCaptions()
  resetLive()
}

function end(line: 'superseded' | 'noSeat') {
  clearTimeout(joining)
  media.disconnect()
  void hub?.stop()
  hub = null
  wanted = null
  useLive.setState({ line })
}

async function start(built: HubConnection): Promise<void> {
  clearTimeout(joining)
  joining = setTimeout(() => void built.stop(), joiningTakes)
  try {
    await built.start()
  } catch {
    startAgain(built)
  }
}

function startAgain(built: HubConnection) {
  clearTimeout(joining)
  if (hub !== built) return
  useLive.setState({ line: 'lost' })
  setTimeout(() => {
    if (hub === built && built.state === HubConnectionState.Disconnected) void start(built)
  }, pauseAfter(tries++))
}

/** For so long, in milliseconds, a line that is up may bring messages before it takes any. */
const opening = 2000

/** The line, once it can be written to; null when it is lost. */
async function writable(): Promise<HubConnection | null> {
  const line = hub
  for (let waited = 0; waited < opening; waited += 20) {
    if (line === null || line !== hub || useLive.getState().line !== 'up') return null
    if (line.state === HubConnectionState.Connected) return line
    await new Promise((wait) => setTimeout(wait, 20))
  }
  return null
}

/** For so long, in milliseconds, the answer to a wish is asked for again when the line broke before it came. */
const answerWithin = 20_000

/** Sends a wish. A refusal is told to the reader, with who could change it. */
export async function wish(command: SeatCommand): Promise<boolean> {
  noteOwnAct(command, Date.now())
  // The same id again is the same wish: what was done is answered as done, and not done twice.
  const id = `${Date.now().toString(36)}${Math.random().toString(36).slice(2)}`
  const until = performance.now() + answerWithin
  for (let line = await writable(); ; line = await writableAgain(until)) {
    if (line === null) {
      tell(t(performance.now() < until ? 'connection.lost' : 'reason.offline'), 'refusal')
      return false
    }
    try {
      const refusal = await line.invoke<Refusal | null>('Do', command, id)
      if (!refusal) return true
      tell(sentenceOfRefusal(refusal), 'refusal')
      return false
    } catch {
      if (performance.now() > until) continue
    }
  }
}

/** Draws over an exhibit, or takes marks away. A refusal is told to the reader. */
export async function markWish(exhibit: number, mark: MarkWish): Promise<boolean> {
  const line = await writable()
  if (line === null) {
    tell(t('connection.lost'), 'refusal')
    return false
  }
  try {
    const refusal = await line.invoke<Refusal | null>('Mark', exhibit, mark)
    if (!refusal) return true
    tell(sentenceOfRefusal(refusal), 'refusal')
  } catch {
    tell(t('reason.offline'), 'refusal')
  }
  return false
}

/** A piece of what is being drawn: it may get lost, and nobody waits for it. */
export function sendStroke(stroke: StrokeWish) {
  if (hub?.state === HubConnectionState.Connected) void hub.send('Stroke', stroke).catch(() => undefined)
}

/** What moves somebody else's screen: it may get lost, and nobody waits for it. */
export function sendDriving(exhibit: number, inputs: readonly DriveInput[]) {
  if (hub?.state === HubConnectionState.Connected && inputs.length > 0)
    void hub.send('Drive', exhibit, inputs).catch(() => undefined)
}

/** The sitting that this page is in. */
export const currentSitting = () => wanted ?? ''

/** The line once it is up again; null when that takes too long, or the seat is not wanted any more. */
async function writableAgain(until: number): Promise<HubConnection | null> {
  const seat = wanted
  while (performance.now() < until && seat !== null && wanted === seat) {
    const line = await writable()
    if (line !== null) return line
    await new Promise((wait) => setTimeout(wait, 250))
  }
  return null
}

/** Why something was refused, in a sentence; after a vain attempt to take back it says what still can be. */
export function sentenceOfRefusal(refusal: Refusal): string {
  const { sitting } = useLive.getState()
  const why = t(`reason.${refusal.reason}`, { host: sitting?.session.hostName ?? t('farewell.theHost') })
  if (refusal.reason !== 'changedSince') return why
  const newest = sitting?.takeBack.newest
  return `${why} ${newest ? t('takeBack.still', { what: deedOf(t, newest.row) }) : t('takeBack.nothing')}`
}

/** Asks the server something; null when it cannot be reached, or does not answer that to this seat. */
async function ask<T>(question: string, ...about: unknown[]): Promise<T | null> {
  const line = await writable()
  if (line === null) return null
  try {
    return await line.invoke<T | null>(question, ...about)
  } catch {
    return null
  }
}

export const questions = {
  /** What a wish would do. */
  foresee: (command: SeatCommand) => ask<ForesightRow>('Foresee', command),
  /** What a line of the command line means. */
  read: (line: string, presets: readonly NamedPreset[]) => ask<ReadingRow>('Read', line, presets, i18next.language),
  ledger: (wanted: LedgerWish) => ask<LedgerPage>('Ledger', wanted),
  chat: (wanted: ChatWish) => ask<ChatPage>('Chat', wanted),
  gone: (before: number) => ask<GonePage>('Gone', before),
  person: (seat: number) => ask<PersonRow>('Person', seat),
}

/** A new message of somebody else's to oneself alone, or to the bench one is on. */
const isForMe = (row: MessageRow) =>
  row.from !== useLive.getState().me?.seat && row.to.reach !== 'everyone' && !row.edited && row.deleted === 'none'

/** Reads the newest messages anew. */
export async function renewChat() {
  const page = await questions.chat({ before: null, find: null })
  if (page) takePage(page)
}

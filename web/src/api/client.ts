import i18next from 'i18next'
import type {
  Answer,
  AnswerPage,
  AccountPage,
  Announcement,
  AgentCode,
  AnnounceWish,
  BringWish,
  BroughtRow,
  CalledIn,
  CallIn,
  CodeSecret,
  ColleagueRow,
  ConfirmWish,
  ContactImport,
  ContactRow,
  DoorPage,
  FilmCut,
  FilmCutMade,
  FilmWish,
  HeldRecording,
  LinkWish,
  MadeLink,
  OpenedLink,
  OpenLink,
  RecordingPage,
  RecordingRow,
  RecordingWish,
  TranscriptPage,
  EraseWish,
  HandoutWish,
  HostsPage,
  HousePage,
  InvitationPage,
  InvitedHost,
  InviteHost,
  JoinWish,
  KeptPlan,
  LedgerCheckRow,
  MarksRow,
  Me,
  NewCode,
  OpenedSitting,
  OutboxPage,
  OutboxRow,
  OwnerRow,
  PaperRow,
  Plan,
  PresetRow,
  PrintRow,
  ReadDocket,
  ReadRooms,
  RoomForm,
  RecoveryCodes,
  ResetWish,
  SessionCard,
  SetUpWish,
  DocketPage,
  SignedIn,
  DocketRow,
  SlotRow,
  StrengthRow,
  StrengthWish,
  Mailed,
  TracesRow,
} from '../contract.generated'
import { t } from '../i18n'

/** A refusal by the server, in a sentence for the reader. */
export class Refused extends Error {
  readonly reason: string
  readonly words: string | null
  /** Which of the rows that were sent is at fault, from 0; null when it is none. */
  readonly row: number | null
  constructor(reason: string, sentence: string, words: string | null = null, row: number | null = null) {
    super(sentence)
    this.reason = reason
    this.words = words
    this.row = row
  }
}

let token: Promise<string> | null = null

const freshToken = () => (token ??= account.me().then((me) => me.token))

async function call<T>(method: string, path: string, body?: unknown, again = true): Promise<T> {
  const file = body instanceof Blob
  const headers: Record<string, string> = { 'content-type': file ? 'application/octet-stream' : 'application/json' }
  if (method !== 'GET') headers['x-csrf'] = await freshToken()
  let response: Response
  try {
    response = await fetch(`/api${path}`, {
      method,
      headers,
      body: body === undefined ? null : file ? body : JSON.stringify(body),
    })
  } catch {
    throw new Refused('offline', t('reason.offline'))
  }
  if (response.ok) {
    const text = await response.text()
    const isJson = response.headers.get('content-type')?.includes('json') !== false
    return (text === '' ? undefined : isJson ? JSON.parse(text) : text) as T
  }
  const problem = (await response.json().catch(() => ({}))) as {
    reason?: string
    words?: string | null
    seconds?: number
    /** Of a file that was read. */
    line?: number
    row?: number
  }
  if (problem.reason === 'staleToken' && again) {
    token = null
    return call(method, path, body, false)
  }
  const reason = problem.reason ?? 'serverFailed'
  throw new Refused(
    reason,
    t(`reason.${reason}`, { seconds: problem.seconds, line: problem.line, host: '' }),
    problem.words ?? null,
    problem.row ?? null,
  )
}

const listeners: ((me: Me) => void)[] = []

/** Is mailed each time the server says who is signed in. */
export const onMe = (hear: (me: Me) => void) => void listeners.push(hear)

/** Who is signed in changes with it, and the token with that. */
async function into<T>(path: string, body?: unknown): Promise<T> {
  const answer = await call<T>('POST', path, body)
  token = null
  return answer
}

export const account = {
  async me() {
    const me = await call<Me>('GET', '/me')
    for (const hear of listeners) hear(me)
    return me
  },
  signIn: (email: string, password: string) => into<SignedIn>('/sign-in', { email, password }),
  secondStep: (code: string, recovery: boolean) => into<null>('/sign-in/code', { code, recovery }),
  passkeyQuestion: () => call<PublicKeyCredentialRequestOptionsJSON>('POST', '/sign-in/passkey/options'),
  signInWithPasskey: (credential: string) => into<null>('/sign-in/passkey', { credential, name: null }),
  signOut: () => into<null>('/sign-out'),
  setUp: (wish: SetUpWish) => into<null>('/set-up', wish),
  forgot: (email: string) => call<null>('POST', '/forgot', { email }),
  reset: (wish: ResetWish) => call<null>('POST', '/reset', wish),
  confirm: (wish: ConfirmWish) => call<null>('POST', '/confirm', wish),
  invitation: (token: string) => call<InvitationPage>('POST', '/join/look', { token }),
  join: (wish: JoinWish) => into<null>('/join', wish),
  strength: (wish: StrengthWish) => call<StrengthRow>('POST', '/password-strength', wish),
  page: () => call<AccountPage>('GET', '/account'),
  prove: (password: string) => call<null>('POST', '/account/prove', { password }),
  rename: (name: string) => call<null>('PUT', '/account/name', { name }),
  moveTo: (email: string) => call<null>('POST', '/account/email', { email }),
  confirmAgain: () => call<null>('POST', '/account/email/confirm'),
  newPassword: (password: string) => call<null>('POST', '/account/password', { password }),
  keepSettings: (settings: string, language: string) => call<null>('PUT', '/account/settings', { settings, language }),
  beginCode: () => call<CodeSecret>('POST', '/account/code/begin'),
  confirmCode: (code: string) => call<RecoveryCodes>('POST', '/account/code/confirm', { code }),
  newRecoveryCodes: () => call<RecoveryCodes>('POST', '/account/code/recovery'),
  codeOff: () => call<null>('DELETE', '/account/code'),
  newPasskey: () => call<PublicKeyCredentialCreationOptionsJSON>('POST', '/account/passkeys/options'),
  keepPasskey: (credential: string, name: string) => call<null>('POST', '/account/passkeys', { credential, name }),
  dropPasskey: (id: string) => call<null>('DELETE', `/account/passkeys/${id}`),
  endSignIn: (id: string) => call<null>('POST', `/account/sign-ins/${id}/end`),
  endOthers: () => call<null>('POST', '/account/sign-ins/end-others'),
  /** Asks first whether it may be had, so that a refusal is a sentence and not a broken download. */
  async archive() {
    await call<null>('GET', '/account/archive')
    location.assign('/api/account/archive.zip')
  },
  close: (heir: string | null) => into<null>('/account/close', { heir }),
  colleagues: () => call<ColleagueRow[]>('GET', '/colleagues'),
}

export const house = {
  state: () => call<HousePage>('GET', '/house/state'),
  backUp: () => call<null>('POST', '/house/backup'),
  traces: (wish: EraseWish) => call<TracesRow>('POST', '/house/erase/look', wish),
  erase: (wish: EraseWish) => call<TracesRow>('POST', '/house/erase', wish),
  hosts: () => call<HostsPage>('GET', '/house/hosts'),
  invite: (wish: InviteHost) => call<InvitedHost>('POST', '/house/invitations', wish),
  dropInvitation: (id: number) => call<null>('DELETE', `/house/invitations/${id}`),
  change: (id: string, what: 'suspend' | 'resume' | 'keeper' | 'stepDown' | 'codeOff') =>
    what === 'stepDown' || what === 'codeOff'
      ? call<null>('DELETE', `/house/hosts/${id}/${what === 'stepDown' ? 'keeper' : 'code'}`)
      : call<null>('POST', `/house/hosts/${id}/${what}`),
  remove: (id: string, heir: string) => call<null>('POST', `/house/hosts/${id}/remove`, { heir }),
}

export const sessions = {
  list: () => call<SessionCard[]>('GET', '/sessions'),
  openNow: (title: string) => call<OpenedSitting>('POST', '/sessions', { title }),
  open: (id: string, prepare = false) => call<OpenedSitting>('POST', `/sessions/${id}/open?prepare=${prepare}`),
  slots: (from: number) => call<SlotRow[]>('GET', `/sessions/slots?from=${from}`),
}

export const door = {
  /** @param token - Of a personal link, once: the browser is known by it from then on. */
  page: (link: string, token: string | null) =>
    token
      ? call<DoorPage>('POST', `/door/${encodeURIComponent(link)}/invitation`, { token })
      : call<DoorPage>('GET', `/door/${encodeURIComponent(link)}`),
  papers: (link: string) => call<PaperRow[]>('GET', `/door/${encodeURIComponent(link)}/papers`),
  paperAddress: (link: string, paper: number) => `/api/door/${encodeURIComponent(link)}/papers/${paper}`,
  callIn: (link: string, wish: CallIn) => call<CalledIn>('POST', `/door/${encodeURIComponent(link)}/call-in`, wish),
  announce: (link: string, wish: AnnounceWish) => call<Announcement>('POST', `/door/${encodeURIComponent(link)}/announce`, wish),
}

/** Where a file of a sitting for other programs is read from: the chat, the ledger. */
export const sittingAddress = (sitting: string, file: string) => `/api/sittings/${sitting}/${file}`

/** The same for a file that people read: it comes in the reader's language and zone. */
export const readingAddress = (sitting: string, file: string) => {
  const reader = { language: i18next.language, zone: Intl.DateTimeFormat().resolvedOptions().timeZone }
  return `${sittingAddress(sitting, file)}?${new URLSearchParams(reader).toString()}`
}

/** Exhibits: their marks, and files that become exhibits. */
export const exhibits = {
  marks: (sitting: string, exhibit: number) => call<MarksRow>('GET', `/sittings/${sitting}/exhibits/${exhibit}/marks`),
  bring: (sitting: string, wish: BringWish) => call<BroughtRow>('POST', `/sittings/${sitting}/exhibits`, wish),
  pagesAddress: (sitting: string, exhibit: number) => `/api/sittings/${sitting}/exhibits/${exhibit}/pages.pdf`,
  /** For the agent beside one's own screen. */
  agentCode: (sitting: string) => call<AgentCode>('POST', `/sittings/${sitting}/agent`),
  filesAddress: (sitting: string) => `/api/sittings/${sitting}/files`,
  /** What a request of another program's must carry. */
  token: () => freshToken(),
}

/** Files that are handed out. */
export const handouts = {
  give: (sitting: string, wish: HandoutWish) => call<null>('POST', `/sittings/${sitting}/handouts`, wish),
  fileAddress: (sitting: string, handout: number) => `/api/sittings/${sitting}/handouts/${handout}/file`,
  toPrint: (sitting: string, handout: number) => call<PrintRow>('GET', `/sittings/${sitting}/handouts/${handout}/print`),
  printAddress: (sitting: string, handout: number, page: number) => `/api/sittings/${sitting}/handouts/${handout}/print/${page}`,
}

export const sittings = {
  checkLedger: (sitting: string) => call<LedgerCheckRow>('GET', `/sittings/${sitting}/ledger/check`),
}

export const recordings = {
  list: () => call<RecordingRow[]>('GET', '/recordings'),
  /** Those of a sitting that one may see. */
  ofSitting: (sitting: string) => call<HeldRecording[]>('GET', `/sittings/${sitting}/recordings`),
  ofLink: (link: string) => call<HeldRecording[]>('GET', `/door/${link}/recordings`),
  page: (id: string, film: string | null) => call<RecordingPage>('GET', `/recordings/${id}${film ? `?film=${film}` : ''}`),
  keep: (id: string, wish: RecordingWish) => call('PUT', `/recordings/${id}`, wish),
  remove: (id: string) => call('DELETE', `/recordings/${id}`),
  putBack: (id: string) => call('POST', `/recordings/${id}/back`),
  removeForGood: (id: string) => call('DELETE', `/recordings/${id}/for-good`),
  compose: (id: string, wish: FilmWish) => call('POST', `/recordings/${id}/films`, wish),
  cut: (id: string, film: string, wish: FilmCut) => call<FilmCutMade>('POST', `/recordings/${id}/films/${film}/cut`, wish),
  cancelFilm: (id: string, film: string) => call('POST', `/recordings/${id}/films/${film}/cancel`),
  filmAgain: (id: string, film: string) => call('POST', `/recordings/${id}/films/${film}/again`),
  dropFilm: (id: string, film: string) => call('DELETE', `/recordings/${id}/films/${film}`),
  takeOut: (id: string, seat: number) => call('DELETE', `/recordings/${id}/people/${seat}`),
  share: (id: string, wish: LinkWish) => call<MadeLink>('POST', `/recordings/${id}/links`, wish),
  dropLink: (id: string, link: string) => call('DELETE', `/recordings/${id}/links/${link}`),
  papers: (id: string) => call<PaperRow[]>('GET', `/recordings/${id}/papers`),
  paperAddress: (id: string, paper: number) => `/api/recordings/${id}/papers/${paper}`,
  transcript: (id: string, film: string) => call<TranscriptPage>('GET', `/recordings/${id}/films/${film}/transcript`),
  /** Null gives a line its own words back; empty words take it out. */
  correctLine: (id: string, line: number, text: string | null) => call('PUT', `/recordings/${id}/lines/${line}`, { text }),
  open: (wish: OpenLink) => call<OpenedLink>('POST', '/shared', wish),
}

/** Where a file of a film stands, for the browser itself to fetch. */
export const filmAddress = (id: string, film: string, file: string, save = false) =>
  `/api/recordings/${id}/films/${film}/${file}${save ? '?save=true' : ''}`

/** A part of the page that could not be drawn is counted: which part, and the kind of the failure. */
export const pageFailures = {
  tell: (place: string, kind: string) => call<null>('POST', '/page-failures', { place, kind }),
}

export const guestLink = (link: string) => `${location.origin}/s/${link}`

/** Plans of rooms as files; in a sitting for the bench, and otherwise for whoever is signed in. */
export const roomFiles = {
  read: (sitting: string | null, file: Blob) =>
    call<ReadRooms>('POST', sitting ? `/sittings/${sitting}/rooms/read` : '/rooms/read', file),
  /** As text. */
  write: (form: RoomForm) => call<string>('POST', '/rooms/rooms.csv', form),
}

export const plans = {
  get: (id: string) => call<KeptPlan>('GET', `/plans/${id}`),
  save: (id: string | null, plan: Plan) =>
    id ? call<KeptPlan>('PUT', `/plans/${id}`, plan) : call<KeptPlan>('POST', '/plans', plan),
  cancel: (id: string) => call<Mailed>('POST', `/plans/${id}/cancel`),
  restore: (id: string) => call<Mailed>('POST', `/plans/${id}/restore`),
  copy: (id: string) => call<KeptPlan>('POST', `/plans/${id}/copy`),
  newLink: (id: string) => call<KeptPlan>('POST', `/plans/${id}/link`),
  newCode: (id: string, kind: 'passcode' | 'host-key') => call<NewCode>('POST', `/plans/${id}/${kind}`),
  clearCode: (id: string, kind: 'passcode' | 'host-key') => call<null>('DELETE', `/plans/${id}/${kind}`),
  docket: (id: string) => call<DocketPage>('GET', `/plans/${id}/docket`),
  keepDocket: (id: string, lines: readonly DocketRow[]) => call<DocketPage>('PUT', `/plans/${id}/docket`, lines),
  readDocket: (id: string, text: string) => call<ReadDocket>('POST', `/plans/${id}/docket/read`, { text }),
  importDocket: (id: string, file: Blob) => call<ReadDocket>('POST', `/plans/${id}/docket/import`, file),
  docketAddress: (id: string) => `/api/plans/${id}/docket/docket.csv`,
  invite: (id: string, lines: readonly number[]) => call<Mailed>('POST', `/plans/${id}/invite`, { lines }),
  papers: (id: string) => call<PaperRow[]>('GET', `/plans/${id}/papers`),
  addPaper: (id: string, file: File) => call<PaperRow[]>('POST', `/plans/${id}/papers/${encodeURIComponent(file.name)}`, file),
  owners: (id: string) => call<OwnerRow[]>('GET', `/plans/${id}/owners`),
  addOwner: (id: string, account: string) => call<OwnerRow[]>('POST', `/plans/${id}/owners`, { account }),
  dropOwner: (id: string, account: string) => call<OwnerRow[]>('DELETE', `/plans/${id}/owners/${account}`),
  passTo: (id: string, account: string) => call<OwnerRow[]>('POST', `/plans/${id}/owners/${account}/owner`),
  dropPaper: (id: string, paper: number) => call<PaperRow[]>('DELETE', `/plans/${id}/papers/${paper}`),
}

export const presets = {
  list: () => call<PresetRow[]>('GET', '/presets'),
  keep: (preset: PresetRow) => call<PresetRow>('POST', '/presets', preset),
  remove: (id: number) => call<null>('DELETE', `/presets/${id}`),
}

export const contacts = {
  list: () => call<ContactRow[]>('GET', '/contacts'),
  keep: (contact: ContactRow) => call<ContactRow>('POST', '/contacts', contact),
  remove: (ids: readonly number[]) => call<null>('POST', '/contacts/remove', ids),
  look: (file: Blob) => call<ContactImport>('POST', '/contacts/import/look', file),
  take: (file: Blob) => call<ContactImport>('POST', '/contacts/import', file),
}

export const outbox = {
  list: () => call<OutboxRow[]>('GET', '/outbox'),
  get: (id: number) => call<OutboxPage>('GET', `/outbox/${id}`),
  again: (id: number) => call<null>('POST', `/outbox/${id}/again`),
}

export const answers = {
  page: (token: string) => call<AnswerPage>('POST', '/answer/look', { token }),
  give: (token: string, answer: Answer) => call<null>('POST', '/answer', { token, answer }),
}

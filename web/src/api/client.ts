import i18next from 'i18next'
import type {
  Answer,
  AnswerPage,
  Announcement,
  AnnounceWish,
  CalledIn,
  CallIn,
  ContactImport,
  ContactRow,
  DoorPage,
  KeptPlan,
  LedgerCheckRow,
  Me,
  NewCode,
  OpenedSitting,
  OutboxPage,
  OutboxRow,
  PaperRow,
  Plan,
  PresetRow,
  ReadSheet,
  SessionCard,
  Sheet,
  SheetLine,
  SlotRow,
  Told,
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
    return (text === '' ? undefined : JSON.parse(text)) as T
  }
  const problem = (await response.json().catch(() => ({}))) as {
    reason?: string
    words?: string | null
    seconds?: number
    row?: number
  }
  if (problem.reason === 'staleToken' && again) {
    token = null
    return call(method, path, body, false)
  }
  const reason = problem.reason ?? 'serverFailed'
  throw new Refused(
    reason,
    t(`reason.${reason}`, { seconds: problem.seconds, host: '' }),
    problem.words ?? null,
    problem.row ?? null,
  )
}

export const account = {
  me: () => call<Me>('GET', '/me'),
  async signIn(email: string, password: string) {
    await call('POST', '/sign-in', { email, password })
    token = null
  },
  async signOut() {
    await call('POST', '/sign-out')
    token = null
  },
}

export const sessions = {
  list: () => call<SessionCard[]>('GET', '/sessions'),
  openNow: (title: string) => call<OpenedSitting>('POST', '/sessions', { title }),
  open: (id: string, prepare = false) => call<OpenedSitting>('POST', `/sessions/${id}/open?prepare=${prepare}`),
  slots: (from: number) => call<SlotRow[]>('GET', `/sessions/slots?from=${from}`),
}

export const door = {
  page: (link: string, me?: string) =>
    call<DoorPage>('GET', `/door/${encodeURIComponent(link)}${me ? `?me=${encodeURIComponent(me)}` : ''}`),
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

export const sittings = {
  checkLedger: (sitting: string) => call<LedgerCheckRow>('GET', `/sittings/${sitting}/ledger/check`),
}

export const guestLink = (link: string) => `${location.origin}/s/${link}`

export const plans = {
  get: (id: string) => call<KeptPlan>('GET', `/plans/${id}`),
  save: (id: string | null, plan: Plan) =>
    id ? call<KeptPlan>('PUT', `/plans/${id}`, plan) : call<KeptPlan>('POST', '/plans', plan),
  cancel: (id: string) => call<Told>('POST', `/plans/${id}/cancel`),
  restore: (id: string) => call<Told>('POST', `/plans/${id}/restore`),
  copy: (id: string) => call<KeptPlan>('POST', `/plans/${id}/copy`),
  newLink: (id: string) => call<KeptPlan>('POST', `/plans/${id}/link`),
  newCode: (id: string, kind: 'passcode' | 'host-key') => call<NewCode>('POST', `/plans/${id}/${kind}`),
  clearCode: (id: string, kind: 'passcode' | 'host-key') => call<null>('DELETE', `/plans/${id}/${kind}`),
  docket: (id: string) => call<Sheet>('GET', `/plans/${id}/docket`),
  keepDocket: (id: string, lines: readonly SheetLine[]) => call<Sheet>('PUT', `/plans/${id}/docket`, lines),
  readDocket: (id: string, text: string) => call<ReadSheet>('POST', `/plans/${id}/docket/read`, { text }),
  importDocket: (id: string, file: Blob) => call<ReadSheet>('POST', `/plans/${id}/docket/import`, file),
  docketAddress: (id: string) => `/api/plans/${id}/docket/docket.csv`,
  invite: (id: string, lines: readonly number[]) => call<Told>('POST', `/plans/${id}/invite`, { lines }),
  papers: (id: string) => call<PaperRow[]>('GET', `/plans/${id}/papers`),
  addPaper: (id: string, file: File) => call<PaperRow[]>('POST', `/plans/${id}/papers/${encodeURIComponent(file.name)}`, file),
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
}

export const answers = {
  page: (token: string) => call<AnswerPage>('GET', `/answer/${encodeURIComponent(token)}`),
  give: (token: string, answer: Answer) => call<null>('POST', `/answer/${encodeURIComponent(token)}`, { answer }),
}

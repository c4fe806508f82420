import type { Announcement, AnnounceWish, DoorPage, Me, OpenedSitting, SessionCard } from '../contract.generated'
import { t } from '../i18n'

/** A refusal by the server, in a sentence for the reader. */
export class Refused extends Error {
  readonly reason: string
  readonly words: string | null
  constructor(reason: string, sentence: string, words: string | null = null) {
    super(sentence)
    this.reason = reason
    this.words = words
  }
}

let token: Promise<string> | null = null

const freshToken = () => (token ??= account.me().then((me) => me.token))

async function call<T>(method: string, path: string, body?: unknown, again = true): Promise<T> {
  const headers: Record<string, string> = { 'content-type': 'application/json' }
  if (method !== 'GET') headers['x-csrf'] = await freshToken()
  let response: Response
  try {
    response = await fetch(`/api${path}`, { method, headers, body: body === undefined ? null : JSON.stringify(body) })
  } catch {
    throw new Refused('offline', t('reason.offline'))
  }
  if (response.ok) return (response.status === 204 ? undefined : await response.json()) as T
  const problem = (await response.json().catch(() => ({}))) as { reason?: string; words?: string | null; seconds?: number }
  if (problem.reason === 'staleToken' && again) {
    token = null
    return call(method, path, body, false)
  }
  const reason = problem.reason ?? 'serverFailed'
  throw new Refused(reason, t(`reason.${reason}`, { seconds: problem.seconds, host: '' }), problem.words ?? null)
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
  open: (id: string) => call<OpenedSitting>('POST', `/sessions/${id}/open`),
}

export const door = {
  page: (link: string) => call<DoorPage>('GET', `/door/${encodeURIComponent(link)}`),
  announce: (link: string, wish: AnnounceWish) => call<Announcement>('POST', `/door/${encodeURIComponent(link)}/announce`, wish),
}

export const guestLink = (link: string) => `${location.origin}/s/${link}`

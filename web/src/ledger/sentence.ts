import type { TFunction } from 'i18next'
import type { LedgerRow } from '../contract.generated'
import { namesOf, timeOfDay } from '../i18n'

/** Under which part of the catalogue an entry's detail is named. */
const details: Record<string, string> = {
  rolesGiven: 'role',
  doorSet: 'door',
  orderSet: 'orderDetail',
  roomsOrderSet: 'orderDetail',
  exceptionGiven: 'capabilityOf',
  exceptionTaken: 'capabilityOf',
  exceptionEnded: 'capabilityOf',
  groupExceptionGiven: 'capabilityOf',
  groupExceptionTaken: 'capabilityOf',
  groupExceptionEnded: 'capabilityOf',
  stateSet: 'signs.state',
  arrangementSet: 'picture',
  recordingRulesSet: 'recording.framing',
  recordingWatchersSet: 'recording.watchers',
}

function detailOf(t: TFunction, row: LedgerRow): string {
  if (!row.detail) return ''
  if (row.what === 'endSet') return timeOfDay(Number(row.detail))
  if (row.what === 'successionSet') return t('common.seconds', { count: Number(row.detail) })
  const group = details[row.what]
  return group ? t(`${group}.${row.detail.split(':')[0]}`) : row.detail
}

/** The group of the docket that stands after the order. */
const groupOf = (row: LedgerRow) =>
  row.what.startsWith('groupException') ? (row.detail?.slice(row.detail.indexOf(':') + 1) ?? '') : ''

const parts = (t: TFunction, row: LedgerRow) => ({
  by: row.by ?? t('ledger.house'),
  names: namesOf(row.names, row.count),
  detail: detailOf(t, row),
  group: groupOf(row),
})

/** An entry of the ledger as a plain sentence. */
export function sentenceOf(t: TFunction, row: LedgerRow): string {
  const undone = row.undone ? sentenceOf(t, row.undone) : ''
  const what = t(`ledger.${row.what}`, { ...parts(t, row), undone: undone.replace(`${row.by} `, '') })
  return row.room ? t('ledger.inRoom', { what, room: row.room }) : what
}

/** A deed in few words, done or not: "muting Nia". */
export const deedOf = (t: TFunction, row: LedgerRow): string =>
  t(`deed.${row.what}`, { ...parts(t, row), undone: row.undone ? deedOf(t, row.undone) : '' })

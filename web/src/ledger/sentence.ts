import type { TFunction } from 'i18next'
import type { LedgerRow } from '../contract.generated'
import { namesOf } from '../i18n'

const details: Record<string, string> = { rolesGiven: 'role', doorSet: 'door', orderSet: 'orderDetail' }

function parts(t: TFunction, row: LedgerRow) {
  const group = details[row.what]
  return {
    by: row.by ?? t('ledger.house'),
    names: namesOf(row.names, row.count),
    detail: row.detail && group ? t(`${group}.${row.detail}`) : (row.detail ?? ''),
  }
}

/** An entry of the ledger as a plain sentence. */
export function sentenceOf(t: TFunction, row: LedgerRow): string {
  const undone = row.undone ? sentenceOf(t, row.undone) : ''
  return t(`ledger.${row.what}`, { ...parts(t, row), undone: undone.replace(`${row.by} `, '') })
}

/** What taking an entry back would undo, in few words. */
export const undoOf = (t: TFunction, row: LedgerRow): string => t(`undo.${row.what}`, parts(t, row))

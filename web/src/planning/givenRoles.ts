import type { Role } from '../contract.generated'

/** The roles that somebody may be invited in; the host's is handed over. */
export const givenRoles: readonly Role[] = ['attendee', 'presenter', 'deputy']

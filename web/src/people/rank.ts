import type { Role, SeatRow } from '../contract.generated'

/** The order in which people are listed: the bench first. */
export const rank: Record<Role, number> = { host: 0, deputy: 1, presenter: 2, attendee: 3 }

export const byRankAndName = (a: SeatRow, b: SeatRow) => rank[a.role] - rank[b.role] || a.name.localeCompare(b.name)

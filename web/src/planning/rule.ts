/** How often a recurring session comes; what the page offers of RFC 5545. */
export interface Repeat {
  every: 'DAILY' | 'WEEKLY' | 'MONTHLY'
  interval: number
  days: readonly string[]
  until: string
}

export const weekdays = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'] as const

export const usual: Repeat = { every: 'WEEKLY', interval: 1, days: [], until: '' }

export function toRule({ every, interval, days, until }: Repeat): string {
  const parts = [`FREQ=${every}`]
  if (interval > 1) parts.push(`INTERVAL=${interval}`)
  if (every === 'WEEKLY' && days.length > 0) parts.push(`BYDAY=${weekdays.filter((day) => days.includes(day)).join(',')}`)
  if (until) parts.push(`UNTIL=${until.replaceAll('-', '')}T235959Z`)
  return parts.join(';')
}

/** The rule as the page can show it; null when it says more than that. */
export function fromRule(rule: string | null): Repeat | null {
  if (!rule) return usual
  const repeat = { ...usual }
  for (const [name, value = ''] of rule.split(';').map((part) => part.split('='))) {
    if (name === 'FREQ' && (value === 'DAILY' || value === 'WEEKLY' || value === 'MONTHLY')) repeat.every = value
    else if (name === 'INTERVAL') repeat.interval = Number(value)
    else if (name === 'BYDAY' && value.split(',').every((day) => weekdays.includes(day as (typeof weekdays)[number])))
      repeat.days = value.split(',')
    else if (name === 'UNTIL') repeat.until = `${value.slice(0, 4)}-${value.slice(4, 6)}-${value.slice(6, 8)}`
    else return null
  }
  return repeat
}

import { guestLink } from '../api/client'
import { dateAndTime, t } from '../i18n'

interface Joinable {
  title: string
  next: number | null
  minutes: number | null
  link: string
  hasPasscode: boolean
}

/** What a host pastes into a message of their own: what, when in the writer's zone by its name, and where. */
export function joiningText({ title, next, minutes, link, hasPasscode }: Joinable): string {
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone
  const length = minutes ? `, ${t('common.minutes', { count: minutes })}` : ''
  return [
    title,
    ...(next === null ? [] : [`${dateAndTime(next)} (${zone})${length}`]),
    '',
    t('joining.link', { link: guestLink(link) }),
    ...(hasPasscode ? [t('joining.passcode')] : []),
  ].join('\n')
}

import type { PageTopic } from '../topics/slots'
import { CommandLine } from './CommandLine'

export const commandLine: PageTopic = {
  foot: { at: 10, Item: CommandLine },
  acts: () => ({ line: () => document.querySelector<HTMLElement>('[data-line]')?.focus() }),
}

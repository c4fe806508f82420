import { openPanel, usePanel } from '../sittings/panels'
import type { PageTopic } from '../topics/slots'
import { SettingsItem } from './SettingsItem'

export const settings = (bench: boolean): PageTopic => ({
  ribbonEnd: { at: 30, Item: () => <SettingsItem {...usePanel('settings')} bench={bench} /> },
  acts: () => ({ help: () => openPanel('settings') }),
})

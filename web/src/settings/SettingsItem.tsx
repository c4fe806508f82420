import { clsx } from 'clsx'
import { Tabs } from 'radix-ui'
import { useTranslation } from 'react-i18next'
import { Panel } from '../ui/Panel'
import { AppearanceSection } from './AppearanceSection'
import { DevicesSection } from './DevicesSection'
import { KeysSection } from './KeysSection'
import { NoticesSection } from './NoticesSection'

interface Props {
  open: boolean
  onOpenChange: (open: boolean) => void
  bench: boolean
  /** As a link among others, outside a sitting's ribbon; without the devices, which are not in use there. */
  plain?: boolean
}

/** Settings for oneself: keys, appearance, notifications, devices. They hold in this browser. */
export function SettingsItem({ open, onOpenChange, bench, plain = false }: Props) {
  const { t } = useTranslation()
  const parts = {
    keys: <KeysSection bench={bench} />,
    appearance: <AppearanceSection />,
    notices: <NoticesSection />,
    ...(plain ? {} : { devices: <DevicesSection /> }),
  }
  return (
    <Panel
      title={t('settings.title')}
      align="end"
      medium
      open={open}
      onOpenChange={onOpenChange}
      trigger={
        <button
          className={
            plain
              ? 'min-h-6 underline underline-offset-4'
              : clsx(
                  'shrink-0 border-l border-felt-line px-3.5 max-md:min-h-11 max-md:grow max-md:px-2.5',
                  'text-[0.844rem] font-semibold hover:bg-felt-line',
                )
          }
        >
          {t('settings.title')}
        </button>
      }
    >
      <Tabs.Root defaultValue={plain ? 'appearance' : 'keys'}>
        <Tabs.List aria-label={t('settings.title')} className="mb-3 flex flex-wrap gap-1 border-b border-line">
          {Object.keys(parts).map((part) => (
            <Tabs.Trigger
              key={part}
              value={part}
              className={clsx(
                '-mb-px border-b-3 border-transparent px-2.5 py-1.5 text-[0.875rem] font-semibold text-ink2',
                'data-[state=active]:border-felt-ink data-[state=active]:text-ink',
              )}
            >
              {t(`settings.section.${part}`)}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        {Object.entries(parts).map(([part, content]) => (
          <Tabs.Content key={part} value={part}>
            {content}
          </Tabs.Content>
        ))}
      </Tabs.Root>
    </Panel>
  )
}

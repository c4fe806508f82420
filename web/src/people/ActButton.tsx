import type { ReactNode } from 'react'
import type { Role } from '../contract.generated'
import { Button } from '../ui/Button'
import { Panel } from '../ui/Panel'
import { useSelection, type ActPanel } from './selection'

/** An action that needs one more word from the host, asked in place. Keys open it, too. */
export function ActButton({
  panel,
  label,
  children,
}: {
  panel: ActPanel
  label: string
  children: (close: () => void) => ReactNode
}) {
  const isOpen = useSelection((state) => state.panel === panel)
  const change = (next: boolean) => useSelection.setState({ panel: next ? panel : null })
  return (
    <Panel title={label} open={isOpen} onOpenChange={change} trigger={<Button small>{label}</Button>}>
      {children(() => change(false))}
    </Panel>
  )
}

/** One choice for each role that can be given. */
export function Roles({ label, onChoose }: { label: (role: Role) => string; onChoose: (role: Role) => void }) {
  const roles: Role[] = ['attendee', 'presenter', 'deputy']
  return (
    <div className="flex flex-col items-stretch gap-1.5">
      {roles.map((role) => (
        <Button key={role} onClick={() => onChoose(role)}>
          {label(role)}
        </Button>
      ))}
    </div>
  )
}

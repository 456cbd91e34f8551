import { reservationFormats, type ReservationFormatId } from '@calm/core/lineUp'
import type { Job } from '@calm/core/job'
import { Ellipsis } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import type { Dialogs } from './lineUpDialogs'

/** What is done now and then: many devices at once, tables and files in and out. */
export function LineUpMenu({ job, dialogs }: { job: Job; dialogs: Dialogs }) {
  const file = (path: string, label: string) => (
    <DropdownMenu.Item key={path} asChild>
      <a className="menu-item" href={`/api/jobs/${job.id}/${path}`} download>
        {label}
      </a>
    </DropdownMenu.Item>
  )
  const dialog = (label: string, kind: 'paste' | 'renumber' | 'kinds' | 'line', key?: string) => (
    <DropdownMenu.Item className="menu-item" onSelect={() => dialogs.open({ kind })}>
      {label}
      {key && <kbd>{key}</kbd>}
    </DropdownMenu.Item>
  )
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="icon-button" aria-label="More of the line-up" title="More">
        <Ellipsis size={18} />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="menu" align="end" sideOffset={4}>
          {dialog('Devices from a spreadsheet', 'paste', 'P')}
          {dialog('Plan addresses for many', 'renumber')}
          {dialog('Add a line or bus', 'line')}
          {dialog('Kinds of devices', 'kinds')}
          <DropdownMenu.Separator className="menu-rule" />
          <DropdownMenu.Label className="menu-label">Devices as a table</DropdownMenu.Label>
          {file('devices.xlsx', 'XLSX')}
          {file('devices.csv', 'CSV')}
          <DropdownMenu.Separator className="menu-rule" />
          <DropdownMenu.Label className="menu-label">DHCP reservations</DropdownMenu.Label>
          {(Object.keys(reservationFormats) as ReservationFormatId[]).map((id) =>
            file(`reservations/${id}`, reservationFormats[id].name),
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}

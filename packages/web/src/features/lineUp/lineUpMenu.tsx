import type { Job } from '@calm/core/job'
import { reservationFormats, type ReservationFormatId } from '@calm/core/lineUp'
import { Ellipsis } from 'lucide-react'
import { Button, Menu, MenuDownload, MenuGroup, MenuItem, tip } from '../../ui'
import type { Dialogs } from './dialogs'

/** What is done now and then: many devices at once, tables and files in and out. */
export function LineUpMenu({ job, dialogs }: { job: Job; dialogs: Dialogs }) {
  const file = (path: string, label: string) => (
    <MenuDownload key={path} href={`/api/jobs/${job.id}/${path}`}>
      {label}
    </MenuDownload>
  )
  const dialog = (label: string, kind: 'paste' | 'renumber' | 'kinds' | 'line', key?: string) => (
    <MenuItem onSelect={() => dialogs.open({ kind })}>
      {label}
      {key && <kbd>{key}</kbd>}
    </MenuItem>
  )
  return (
    <Menu
      trigger={
        <Button look="icon" aria-label="More of the line-up" {...tip('More')}>
          <Ellipsis size={18} />
        </Button>
      }
    >
      {dialog('Devices from a spreadsheet', 'paste', 'P')}
      {dialog('Plan addresses for many', 'renumber')}
      {dialog('Add a line or bus', 'line')}
      {dialog('Kinds of devices', 'kinds')}
      <MenuGroup label="Devices as a table">
        {file('devices.xlsx', 'XLSX')}
        {file('devices.csv', 'CSV')}
      </MenuGroup>
      <MenuGroup label="DHCP reservations">
        {(Object.keys(reservationFormats) as ReservationFormatId[]).map((id) =>
          file(`reservations/${id}`, reservationFormats[id].name),
        )}
      </MenuGroup>
    </Menu>
  )
}

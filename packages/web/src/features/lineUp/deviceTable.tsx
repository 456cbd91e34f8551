import type { Job } from '@calm/core/job'
import type { DeviceLine } from './lines'
import { DeviceRow } from './deviceRow'
import type { LineUp } from './useLineUp'

interface TableProps {
  readonly job: Job
  readonly lines: readonly DeviceLine[]
  readonly lineUp: LineUp
  readonly selectedId: string | undefined
  readonly onSelect: (deviceId: string) => void
}

export function DeviceTable({ job, lines, lineUp, selectedId, onSelect }: TableProps) {
  return (
    <table>
      <caption className="visually-hidden">Devices of {job.name}</caption>
      <colgroup>
        <col style={{ width: 86 }} />
        <col style={{ width: '16%' }} />
        <col className="hide-narrow" style={{ width: 122 }} />
        <col style={{ width: 110 }} />
        <col style={{ width: 42 }} />
        <col className="hide-narrow" style={{ width: 110 }} />
        <col />
      </colgroup>
      <thead>
        <tr>
          <th>Tag</th>
          <th>What it is</th>
          <th className="hide-narrow">As found</th>
          <th>Planned</th>
          <th>Unit</th>
          <th className="hide-narrow">Ladder</th>
          <th>Finding</th>
        </tr>
      </thead>
      <tbody>
        {lines.map((line) => (
          <DeviceRow
            key={line.device.id}
            job={job}
            line={line}
            lineUp={lineUp}
            selected={line.device.id === selectedId}
            onSelect={() => onSelect(line.device.id)}
          />
        ))}
      </tbody>
    </table>
  )
}

import { useVirtualizer } from '@tanstack/react-virtual'
import { useEffect, useRef } from 'react'
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
  /** What scrolls the table. */
  readonly scroller: HTMLElement | null
}

const ROW = 35
/** Rows drawn above and below what is seen, so that scrolling never shows a gap. */
const SPARE = 12

/** The devices. Only the rows near the window are drawn, so a long list costs no more than a short one. */
export function DeviceTable({ job, lines, lineUp, selectedId, onSelect, scroller }: TableProps) {
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller,
    estimateSize: () => ROW,
    overscan: SPARE,
    getItemKey: (index) => lines[index]?.device.id ?? index,
  })
  const index = lines.findIndex((line) => line.device.id === selectedId)
  const shownFor = useRef<string | undefined>(undefined)
  useEffect(() => {
    // Follows the choice, not every change of the list around it.
    if (index < 0 || shownFor.current === selectedId) return
    shownFor.current = selectedId
    rows.scrollToIndex(index, { align: 'auto' })
  }, [rows, index, selectedId])

  const drawn = rows.getVirtualItems()
  const above = drawn[0]?.start ?? 0
  const below = rows.getTotalSize() - (drawn.at(-1)?.end ?? 0)
  return (
    <table aria-rowcount={lines.length + 1}>
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
        <tr aria-rowindex={1}>
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
        <Spacer height={above} />
        {drawn.map((item) => {
          const line = lines[item.index]
          return line ? (
            <DeviceRow
              key={line.device.id}
              line={line}
              rowIndex={item.index + 2}
              lineUp={lineUp}
              selected={line.device.id === selectedId}
              onSelect={() => onSelect(line.device.id)}
            />
          ) : null
        })}
        <Spacer height={below} />
      </tbody>
    </table>
  )
}

/** Stands for the rows that are not drawn. */
function Spacer({ height }: { height: number }) {
  return height > 0 ? (
    <tr aria-hidden="true" className="spacer">
      <td colSpan={7} style={{ height }} />
    </tr>
  ) : null
}

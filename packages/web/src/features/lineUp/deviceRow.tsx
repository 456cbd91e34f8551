import { memo } from 'react'
import { deviceColumn, type DeviceColumnId } from '@calm/core/lineUp'
import type { Job } from '@calm/core/job'
import { newId } from '../../api'
import { Address, Editable, Glyph, LadderStrip } from '../../ui'
import { cellChanges } from '@calm/core/lineUp'
import { cellName, fromKind, type ColumnSet } from './columnSets'
import type { DeviceLine } from './lines'
import type { LineUp } from './useLineUp'

interface RowProps {
  readonly job: Job
  readonly line: DeviceLine
  readonly columns: ColumnSet
  /** Place in the whole table, its head being 1. */
  readonly rowIndex: number
  readonly actions: RowActions
  readonly selected: boolean
  /** One of several rows that are chosen together. */
  readonly chosen: boolean
}

/** What a row may ask of the table. The same object for all rows and all times, so that a row need not be drawn again for it. */
export interface RowActions {
  readonly change: LineUp['change']
  readonly select: (deviceId: string, extend: boolean) => void
  /** The text goes into all rows that are chosen with this one. */
  readonly setAll: (column: DeviceColumnId, text: string, deviceId: string) => void
}

/** One device: every value is edited where it stands. Drawn again only when something of its own has changed. */
export const DeviceRow = memo(function DeviceRow(props: RowProps) {
  const { line, columns, rowIndex, selected, chosen, actions } = props
  const { device, behind, state } = line
  const addressOdds = line.findings.some((finding) => finding.severity !== 'worth-knowing')
  const classes = [behind && 'behind', line.lastBehind && 'last', addressOdds && 'is-odds', chosen && 'chosen']
  return (
    <tr
      className={classes.filter(Boolean).join(' ')}
      aria-selected={selected || chosen}
      aria-rowindex={rowIndex}
      onClick={(event) => actions.select(device.id, event.shiftKey)}
      data-device={device.id}
    >
      <th scope="row" data-col="tag">
        <Cell {...props} id="tag" />
      </th>
      {columns.columns.map(({ id, hideNarrow }) => (
        <td
          key={id}
          data-col={id}
          className={[hideNarrow && 'hide-narrow', id === 'address' && 'goes', id === 'asFound' && 'soft']
            .filter(Boolean)
            .join(' ')}
        >
          <Cell {...props} id={id} />
        </td>
      ))}
      {columns.ladder && (
        <td className="hide-narrow">
          {line.ladder ? <LadderStrip ladder={line.ladder} /> : <span className="soft">–</span>}
        </td>
      )}
      <td>
        <span className={`finding-cell state ${state}`}>
          <Glyph state={state} size={15} />
          <span title={line.say}>{line.say}</span>
        </span>
      </td>
    </tr>
  )
})

/** One cell: what stands there, what may be typed there, and where it goes. */
function Cell({ job, line, actions, selected, chosen, rowIndex, id }: RowProps & { id: DeviceColumnId }) {
  const { device, behind } = line
  const column = deviceColumn(id)
  const text = column.text(device, job)
  if (id === 'address' && device.ports.length === 0 && behind) return <span className="soft">via {behind.tag}</span>
  const save = async (typed: string) => {
    const reading = column.read(typed, job, device)
    if (!reading.ok) return
    await actions.change(
      `${reading.value.device?.tag ?? device.tag} changed.`,
      cellChanges(job, device, reading.value, newId),
    )
  }
  const kindSays = text === '' ? fromKind(id, device, job) : undefined
  return (
    <Editable
      typed={column.typed}
      label={cellName(id, column.name, device.tag)}
      text={text}
      shown={id === 'nodes' ? nodeText(text) : shownText(text, column.typed, kindSays)}
      choices={column.choices?.(job)}
      tabStop={selected || rowIndex === 2}
      read={(typed) => column.read(typed, job, device)}
      onOpen={() => chosen || actions.select(device.id, false)}
      onSave={save}
      onSaveAll={chosen ? (typed) => actions.setAll(id, typed, device.id) : undefined}
    />
  )
}

/** The number first: the line is mostly the same for all. */
function nodeText(text: string): React.ReactNode {
  if (text === '') return undefined
  const parts = text.split('; ').map((part) => ({ line: part.replace(/\s\S+$/, ''), node: part.split(' ').at(-1) }))
  return (
    <>
      <span className="typed">{parts.map((part) => part.node).join(', ')}</span>{' '}
      <span className="soft">{[...new Set(parts.map((part) => part.line))].join(', ')}</span>
    </>
  )
}

function shownText(text: string, typed: boolean, kindSays: string | undefined): React.ReactNode {
  if (/^\d+\.\d+\.\d+\.\d+$/.test(text)) return <Address text={text} />
  if (text === '') return kindSays === undefined ? undefined : <span className="soft">{kindSays}</span>
  return typed ? <span className="typed">{text}</span> : undefined
}

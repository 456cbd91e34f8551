import { memo } from 'react'
import { cellChanges, deviceColumn, type DeviceColumnId } from '@calm/core/lineUp'
import type { Job } from '@calm/core/job'
import { newId } from '../../../api'
import { Address, cn, Editable, Glyph, LadderStrip, tipWhenCut } from '../../../ui'
import { cellName, fromKind } from './columnSets'
import type { DeviceLine } from './lines'
import type { LineUp } from '../useLineUp'

/** A column that shows, in its order. */
export interface ShownColumn {
  readonly id: DeviceColumnId | 'ladder' | 'finding'
  /** Left out where the window is narrow. */
  readonly hideNarrow: boolean
}

interface RowProps {
  readonly job: Job
  readonly line: DeviceLine
  readonly columns: readonly ShownColumn[]
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

const cellClass = 'h-8.75 border-t border-rule pr-1 text-left align-middle font-[inherit] whitespace-nowrap'

/** A device that hangs behind another one: the line from the one above, and the branch to it. */
const behindLine =
  'pl-5 before:absolute before:-top-px before:bottom-0 before:left-1.5 before:border-l-[1.5px] before:border-ink-faint after:absolute after:top-1/2 after:left-1.5 after:w-2 after:border-t-[1.5px] after:border-ink-faint'

/** One device: every value is edited where it stands. Drawn again only when something of its own has changed. */
export const DeviceRow = memo(function DeviceRow(props: RowProps) {
  const { line, columns, rowIndex, selected, chosen, actions } = props
  const { device, behind, state } = line
  const addressOdds = line.findings.some((finding) => finding.severity !== 'worth-knowing')
  return (
    <tr
      className={cn(
        'group/row hover:bg-ground aria-selected:bg-ground',
        chosen && 'shadow-[inset_0_2px_0_var(--color-rule-strong)]',
      )}
      aria-selected={selected || chosen}
      aria-rowindex={rowIndex}
      onClick={(event) => actions.select(device.id, event.shiftKey)}
      data-device={device.id}
    >
      {columns.map(({ id, hideNarrow }) => {
        const classes = cn(cellClass, hideNarrow && 'max-laptop:hidden')
        if (id === 'tag')
          return (
            <th
              key={id}
              scope="row"
              data-col={id}
              className={cn(
                classes,
                'relative font-heavy group-aria-selected/row:shadow-[inset_6px_0_0_var(--color-ink)]',
                behind && behindLine,
                line.lastBehind && 'before:bottom-1/2',
              )}
            >
              <Cell {...props} id={id} className={behind ? undefined : 'group-aria-selected/row:pl-3'} />
            </th>
          )
        if (id === 'ladder')
          return (
            <td key={id} className={classes}>
              {line.ladder ? <LadderStrip ladder={line.ladder} /> : <span className="text-ink-soft">–</span>}
            </td>
          )
        if (id === 'finding')
          return (
            <td key={id} className={classes}>
              <span
                className={cn(
                  'flex items-center gap-1.75 overflow-hidden',
                  state === 'at-odds' && 'font-firm text-odds',
                )}
              >
                <Glyph state={state} size={15} />
                <span className="overflow-hidden text-ellipsis" {...tipWhenCut(line.say)}>
                  {line.say}
                </span>
              </span>
            </td>
          )
        return (
          <td
            key={id}
            data-col={id}
            data-odds={id === 'address' && addressOdds}
            className={cn(
              classes,
              'group/odds',
              id === 'address' && addressOdds && 'text-odds',
              id === 'asFound' && 'text-ink-soft',
            )}
          >
            <Cell {...props} id={id} />
          </td>
        )
      })}
    </tr>
  )
})

/** One cell: what stands there, what may be typed there, and where it goes. */
function Cell(props: RowProps & { readonly id: DeviceColumnId; readonly className?: string | undefined }) {
  const { job, line, actions, selected, chosen, rowIndex, id, className } = props
  const { device, behind } = line
  const column = deviceColumn(id)
  const text = column.text(device, job)
  if (id === 'address' && device.ports.length === 0 && behind)
    return <span className="text-ink-soft">via {behind.tag}</span>
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
      {...(className !== undefined && { className })}
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

const typedCell = 'font-typed text-typed font-medium tracking-[-0.05em]'

/** The number first: the line is mostly the same for all. */
function nodeText(text: string): React.ReactNode {
  if (text === '') return undefined
  const parts = text.split('; ').map((part) => ({ line: part.replace(/\s\S+$/, ''), node: part.split(' ').at(-1) }))
  return (
    <>
      <span className={typedCell}>{parts.map((part) => part.node).join(', ')}</span>{' '}
      <span className="text-ink-soft">{[...new Set(parts.map((part) => part.line))].join(', ')}</span>
    </>
  )
}

function shownText(text: string, typed: boolean, kindSays: string | undefined): React.ReactNode {
  if (/^\d+\.\d+\.\d+\.\d+$/.test(text)) return <Address text={text} />
  if (text === '') return kindSays === undefined ? undefined : <span className="text-ink-soft">{kindSays}</span>
  return typed ? <span className={typedCell}>{text}</span> : undefined
}

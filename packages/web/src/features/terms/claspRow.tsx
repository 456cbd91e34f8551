import { termDefinition, termGroups, type ClaspRow, type End, type TermContext } from '@calm/core/terms'
import { Powers, RefusalNote } from '../../ui'
import { isOpen, type PlacedRow } from './claspShape'
import { TermValue } from './termValue'
import type { TermEdit } from './useTermEdit'

interface RowProps {
  readonly place: PlacedRow
  readonly startsGroup: boolean
  readonly context: TermContext
  readonly terms: TermEdit
}

/** One term: both values close to the seam; where they disagree the seam parts and the reason stands in the gap. */
export function ClaspRowView({ place, startsGroup, context, terms }: RowProps) {
  const { row, top, height } = place
  const group = termGroups[row.group]
  const open = isOpen(row)
  const device = row.ends.device
  return (
    <div
      className={`term ${open ? 'open' : ''}`}
      style={{ top, height }}
      data-term={row.id}
      data-group={row.group}
      data-state={row.state}
    >
      {startsGroup && (
        <span className="group-name">
          <b>{group.name}</b>
          {group.speaks}
        </span>
      )}
      <div className="left">
        <span className="term-name" title={termDefinition(row.id).explain}>
          {row.name}
        </span>
        <TermValue place={place} end="controller" context={context} terms={terms} />
      </div>
      {open && <Gap place={place} context={context} terms={terms} />}
      <div className="right">
        <TermValue place={place} end="device" context={context} terms={terms} />
        {!open && (
          <span className="term-fits">
            {row.state === 'fits' ? row.remark : row.state === 'unknown' ? notKnown(row, context) : ''}
          </span>
        )}
        <span className="term-origin">{device.state === 'blank' ? '' : device.entry.origin}</span>
      </div>
    </div>
  )
}

/** Where a term is not known. */
function notKnown({ ends }: ClaspRow, { tags }: TermContext): string {
  if (ends.controller.state !== 'blank') return `not known at ${tags.device}`
  return ends.device.state === 'blank' ? 'not known at both ends' : `not known at ${tags.controller}`
}

/** In the gap: one reason, the ways out, and the side effect of the first. */
function Gap({ place: { row }, terms }: Omit<RowProps, 'startsGroup'>) {
  const refused = (['controller', 'device'] as const).find((end) => row.ends[end].state === 'refused')
  const reading = refused ? row.ends[refused] : undefined
  const origin = (end: End) => {
    const at = row.ends[end]
    return at.state === 'blank' ? '' : at.entry.origin
  }
  if (refused && reading?.state === 'refused') {
    const { entry } = reading
    return (
      <div className="gap">
        <RefusalNote
          id={`refused-${row.id}`}
          refusal={reading.refusal}
          onOffer={(text) =>
            void terms.edit(row.id, refused, { text, notation: entry.notation ?? null, origin: entry.origin })
          }
        />
      </div>
    )
  }
  return (
    <div className="gap">
      <p>
        <Powers text={row.remark} />
      </p>
      <div className="fixes">
        {row.fixes.slice(0, 2).map((fix, k) => (
          <button
            key={fix.label}
            type="button"
            data-fix
            title={fix.sideEffect}
            className={k === 0 ? 'act' : 'plain'}
            onClick={() =>
              void terms.edit(row.id, fix.end, {
                text: fix.text,
                notation: fix.notation ?? null,
                origin: origin(fix.end),
              })
            }
          >
            {fix.label}
          </button>
        ))}
      </div>
    </div>
  )
}

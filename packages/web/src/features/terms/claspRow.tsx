import { isFromLineUp } from '@calm/core/job'
import { termDefinition, termGroups, type End, type EndReading, type TermContext } from '@calm/core/terms'
import { Popover } from 'radix-ui'
import { useState } from 'react'
import { Powers, RefusalNote } from '../../ui'
import { isOpen, type PlacedRow } from './claspShape'
import { TermEditor } from './termEditor'
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
    <div className={`term ${open ? 'open' : ''}`} style={{ top, height }} data-term={row.id} data-state={row.state}>
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
            {row.state === 'fits' ? row.remark : row.state === 'unknown' ? 'not known at both ends' : ''}
          </span>
        )}
        <span className="term-origin">{device.state === 'blank' ? '' : device.entry.origin}</span>
      </div>
    </div>
  )
}

function TermValue({ place, end, context, terms }: Omit<RowProps, 'startsGroup'> & { end: End }) {
  const [editing, setEditing] = useState(false)
  const { row } = place
  const reading = row.ends[end]
  const tag = context.tags[end]
  return (
    <span className="term-value">
      <Popover.Root open={editing} onOpenChange={setEditing}>
        <Popover.Trigger className="cell-edit" aria-label={`${row.name} of ${tag}: ${shownText(reading)}. Edit`}>
          {reading.state === 'blank' ? <span className="blank">{shownText(reading)}</span> : shownText(reading)}
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            className="term-editor"
            sideOffset={4}
            collisionPadding={12}
            aria-label={`${row.name} of ${tag}`}
          >
            <TermEditor
              id={row.id}
              end={end}
              tag={tag}
              terms={context.terms}
              entry={reading.state === 'blank' ? undefined : reading.entry}
              fromLineUp={isFromLineUp(row.id, end)}
              onSave={(next) => terms.edit(row.id, end, next)}
              onClose={() => setEditing(false)}
            />
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </span>
  )
}

const shownText = (reading: EndReading): string =>
  reading.state === 'blank' ? 'not known' : reading.state === 'read' ? reading.shown : reading.entry.text

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

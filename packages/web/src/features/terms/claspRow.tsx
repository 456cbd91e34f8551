import type { RowStanding } from '@calm/core/job'
import { termDefinition, termGroups, type ClaspRow, type End, type TermContext } from '@calm/core/terms'
import { Button, cn, Powers, RefusalNote, tip } from '../../ui'
import { isOpen, type PlacedRow } from './claspShape'
import { StandingMark } from './standingMark'
import { TermValue } from './termValue'
import type { TermEdit } from './useTermEdit'

interface RowProps {
  readonly place: PlacedRow
  readonly startsGroup: boolean
  /** Where it starts one: the only row of its group. */
  readonly isAlone: boolean
  readonly context: TermContext
  readonly terms: TermEdit
  readonly standing: RowStanding | undefined
}

/** Where the two values stand: beside the seam, or at the edges of the gap. On a phone below the name of the term. */
const half = {
  left: cn(
    'absolute inset-y-0 right-[calc(50%+24px)] left-47.5 flex items-center justify-end gap-3.5 max-desk:left-3',
    'group-data-[open=true]:right-[calc(50%+var(--reach)+28px)]',
    '@max-[620px]:right-[calc(50%+14px)] @max-[620px]:items-end @max-[620px]:pb-1.5',
    '@max-[620px]:group-data-[open=true]:right-[calc(50%+6px)] @max-[620px]:group-data-[open=true]:bottom-auto @max-[620px]:group-data-[open=true]:left-7 @max-[620px]:group-data-[open=true]:h-16.5 @max-[620px]:group-data-[open=true]:justify-start',
  ),
  right: cn(
    'absolute inset-y-0 right-4 left-[calc(50%+24px)] flex items-center gap-3.5',
    'group-data-[open=true]:left-[calc(50%+var(--reach)+28px)]',
    '@max-[620px]:left-[calc(50%+14px)] @max-[620px]:items-end @max-[620px]:pb-1.5',
    '@max-[620px]:group-data-[open=true]:right-7 @max-[620px]:group-data-[open=true]:bottom-auto @max-[620px]:group-data-[open=true]:left-[calc(50%+6px)] @max-[620px]:group-data-[open=true]:h-16.5 @max-[620px]:group-data-[open=true]:justify-end',
  ),
}
const gap =
  'absolute inset-y-0 left-[calc(50%-var(--reach)+20px)] flex w-[calc(2*var(--reach)-40px)] flex-col justify-center gap-2 @max-[620px]:top-18 @max-[620px]:justify-start'

/** Height from which two lines of a head fit, px. */
const TALL = 44

/** One term: both values close to the seam; where they disagree the seam parts and the reason stands in the gap. */
export function ClaspRowView({ place, startsGroup, isAlone, context, terms, standing }: RowProps) {
  const { row, top, height } = place
  const group = termGroups[row.group]
  const open = isOpen(row)
  const device = row.ends.device
  return (
    <div
      className={cn('absolute inset-x-0 transition-[top] duration-240 ease-out', 'group')}
      data-open={open}
      style={{ top, height }}
      data-term={row.id}
      data-group={row.group}
      data-state={row.state}
    >
      {startsGroup && (
        <span className="absolute top-1 left-5 w-42.5 text-note leading-snug text-ink-soft max-desk:hidden">
          <b className="block text-body font-heavy text-ink">{group.name}</b>
          {/* A row of usual height has no room for it when the next group begins under it. */}
          {(!isAlone || height >= TALL) && group.speaks}
        </span>
      )}
      <div className={half.left}>
        <span
          className="text-row whitespace-nowrap text-ink-soft group-data-[open=true]:font-heavy group-data-[open=true]:text-ink @max-[620px]:absolute @max-[620px]:top-1 @max-[620px]:left-0 @max-[620px]:text-note @max-[620px]:group-data-[open=true]:top-4"
          {...tip(termDefinition(row.id).explain)}
        >
          {row.name}
        </span>
        <StandingMark standing={standing?.controller} />
        <TermValue place={place} end="controller" context={context} terms={terms} standing={standing?.controller} />
      </div>
      {open && <Gap place={place} context={context} terms={terms} />}
      <div className={half.right}>
        <TermValue place={place} end="device" context={context} terms={terms} standing={standing?.device} />
        <StandingMark standing={standing?.device} />
        {!open && (
          <span data-fits className="overflow-hidden text-note text-ellipsis whitespace-nowrap @max-[620px]:hidden">
            {row.state === 'fits' ? row.remark : row.state === 'unknown' ? notKnown(row, context) : ''}
          </span>
        )}
        <span className="ml-auto flex-none overflow-hidden text-note text-ellipsis whitespace-nowrap text-ink-soft group-data-[open=true]:hidden max-desk:hidden">
          {device.state === 'blank' ? '' : device.entry.origin}
        </span>
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
function Gap({ place: { row }, terms }: Omit<RowProps, 'startsGroup' | 'isAlone' | 'standing'>) {
  const refused = (['controller', 'device'] as const).find((end) => row.ends[end].state === 'refused')
  const reading = refused ? row.ends[refused] : undefined
  const origin = (end: End) => {
    const at = row.ends[end]
    return at.state === 'blank' ? '' : at.entry.origin
  }
  if (refused && reading?.state === 'refused') {
    const { entry } = reading
    return (
      <div className={gap}>
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
    <div className={gap}>
      <p className="text-row leading-snug">
        <Powers text={row.remark} />
      </p>
      <div className="flex flex-wrap items-center gap-x-2.5 gap-y-1.5">
        {row.fixes.slice(0, 2).map((fix, k) => (
          <Button
            key={fix.label}
            data-fix
            look={k === 0 ? 'act' : 'plain'}
            {...tip(fix.sideEffect)}
            onClick={() =>
              void terms.edit(row.id, fix.end, {
                text: fix.text,
                notation: fix.notation ?? null,
                origin: origin(fix.end),
              })
            }
          >
            {fix.label}
          </Button>
        ))}
      </div>
    </div>
  )
}

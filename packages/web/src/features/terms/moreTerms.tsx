import { termGroups, type ClaspRow, type TermGroup, type TermId } from '@calm/core/terms'
import { useState } from 'react'
import { Button, cn, tip } from '../../ui'

interface MoreProps {
  /** Terms that nobody said, with what is known of them. */
  readonly more: readonly ClaspRow[]
  readonly onSay: (id: TermId) => void
  /** What stands beside it in its line. */
  readonly children: React.ReactNode
}

const shownAt = ({ ends }: ClaspRow): string => {
  const known = [ends.controller, ends.device].flatMap((end) => (end.state === 'read' ? [end.shown] : []))
  return known.join(' / ')
}

/** What there is between these two ends besides: folded away until somebody says it, or it is at odds. */
export function MoreTerms({ more, onSay, children }: MoreProps) {
  const [open, setOpen] = useState(false)
  const known = more.filter(({ state }) => state === 'equal' || state === 'fits').length
  const groups = (Object.keys(termGroups) as TermGroup[]).filter((group) => more.some((row) => row.group === group))
  return (
    <section className="px-5 pb-3" aria-label="Terms that nobody has said">
      <div className="flex flex-wrap items-center gap-x-5 gap-y-1">
        {more.length > 0 && (
          <Button look="plain" className="text-note" aria-expanded={open} onClick={() => setOpen(!open)}>
            {open ? 'Fold what nobody said' : `${more.length} more can be compared`}
            {!open && known > 0 && `, ${known} known to agree`}
          </Button>
        )}
        {children}
      </div>
      {open && (
        <dl className="mt-1 grid grid-cols-[130px_1fr] gap-x-4 gap-y-1.5 text-row">
          {groups.map((group) => (
            <div key={group} className="contents">
              <dt className="text-note text-ink-soft">{termGroups[group].name}</dt>
              <dd className="flex flex-wrap gap-x-3 gap-y-0.5">
                {more
                  .filter((row) => row.group === group)
                  .map((row) => (
                    <button
                      key={row.id}
                      type="button"
                      data-more={row.id}
                      className={cn(
                        'rounded-sm px-1 hover:bg-ground',
                        (row.state === 'equal' || row.state === 'fits') && 'text-proven',
                      )}
                      onClick={() => onSay(row.id)}
                      {...tip(row.remark || 'Say it at one end, and both are compared')}
                    >
                      {row.name}
                      {shownAt(row) && <span className="ml-1 font-typed text-note">{shownAt(row)}</span>}
                    </button>
                  ))}
              </dd>
            </div>
          ))}
        </dl>
      )}
    </section>
  )
}

import { isOpen, type LedgerEntry } from '@calm/core/handOver'
import { format } from 'date-fns'

/** What was left or changed for the work and is not back yet; forced values stand above, with their own way out. */
export function LedgerList({ ledger }: { ledger: readonly LedgerEntry[] }) {
  const open = ledger.filter((entry) => isOpen(entry) && entry.kind === 'temporary')
  return (
    <section className="forces" aria-label="Temporary things">
      <h3>
        Temporary <b>{open.length}</b>
      </h3>
      {open.map((entry) => (
        <div key={entry.id} className="force-row">
          <span>
            <b>{entry.what}</b>
            <em>
              {entry.putBack} {format(entry.at, 'd MMM HH:mm')}, {entry.who}
            </em>
          </span>
        </div>
      ))}
      <p className="note mt-2">
        {open.length > 0
          ? 'Hand-over stays shut until each is seen back: the count at the top opens the list.'
          : 'Everything that was left or changed is back.'}
      </p>
    </section>
  )
}

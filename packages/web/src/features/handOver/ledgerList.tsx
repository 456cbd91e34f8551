import { isOpen, type LedgerEntry } from '@calm/core/handOver'
import { format } from 'date-fns/format'

/** What was left or changed for the work and is not back yet; forced values stand above, with their own way out. */
export function LedgerList({ ledger }: { ledger: readonly LedgerEntry[] }) {
  const open = ledger.filter((entry) => isOpen(entry) && entry.kind === 'temporary')
  return (
    <section className="border-t border-rule pt-2.5" aria-label="Temporary things">
      <h3 className="mb-0.5 flex items-center gap-2">
        Temporary <b className="ml-auto font-typed text-lead leading-none font-strong">{open.length}</b>
      </h3>
      {open.map((entry) => (
        <div
          key={entry.id}
          className="grid min-h-13 grid-cols-[1fr_auto_auto] items-center gap-3 border-b border-rule text-row leading-snug"
        >
          <span>
            <b>{entry.what}</b>
            <em className="block text-note text-ink-soft">
              {entry.putBack} {format(entry.at, 'd MMM HH:mm')}, {entry.who}
            </em>
          </span>
        </div>
      ))}
      <p className="mt-2 note">
        {open.length > 0
          ? 'Hand-over stays shut until each is seen back: the count at the top opens the list.'
          : 'Everything that was left or changed is back.'}
      </p>
    </section>
  )
}

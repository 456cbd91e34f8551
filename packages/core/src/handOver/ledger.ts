import type { Job } from '../job'
import type { TemporaryThing } from '../procedure'

/** Something that is not as it will be: a value held by hand, or a thing left, changed or taken off for the work. */
export interface LedgerEntry extends TemporaryThing {
  readonly kind: 'forced' | 'temporary'
}

/** Everything temporary of a job, in one list, open ones first, each group in the order in which it came. */
export function ledgerOf(job: Job, temporary: readonly TemporaryThing[]): readonly LedgerEntry[] {
  const forced = job.forced.map((each): LedgerEntry => ({
    kind: 'forced',
    id: each.id,
    version: each.version,
    what: `${each.where} forced to ${each.value}`,
    putBack: 'Release it where it is held.',
    who: each.who,
    at: each.at,
    backBy: each.releasedBy,
    backAt: each.releasedAt,
  }))
  const things = temporary.map((each): LedgerEntry => ({ kind: 'temporary', ...each }))
  return [...forced, ...things].sort((a, b) => Number(a.backAt !== null) - Number(b.backAt !== null) || a.at - b.at)
}

export const isOpen = (entry: LedgerEntry): boolean => entry.backAt === null

/** Why hand-over is shut while the ledger is open, one sentence for each kind; empty when nothing is outstanding. */
export function ledgerBlocks(ledger: readonly LedgerEntry[]): readonly string[] {
  const open = ledger.filter(isOpen)
  const forcedCount = open.filter((each) => each.kind === 'forced').length
  const things = open.filter((each) => each.kind === 'temporary')
  const forced = `${forcedCount} value${forcedCount === 1 ? ' is' : 's are'} forced. Release first.`
  const temporary = `Not back yet: ${things.map((thing) => thing.what).join('; ')}.`
  return [...(forcedCount > 0 ? [forced] : []), ...(things.length > 0 ? [temporary] : [])]
}

import { rungs, type Ladder, type Rung, type RungState } from '../ladder'
import { handshakeLadderOf, type Handshake, type Job, type LadderOf } from '../job'
import type { TemporaryThing } from '../procedure'
import { isOpen, ledgerBlocks, ledgerOf, type LedgerEntry } from './ledger'

/** How the job stands at one rung, over all handshakes. */
export interface RungReadiness {
  readonly rung: Rung
  readonly name: string
  readonly counts: Readonly<Record<RungState, number>>
  /** Handshakes that need this rung. */
  readonly needed: number
  readonly open: readonly {
    readonly handshakeId: string
    readonly name: string
    readonly state: RungState
    readonly missing: string
  }[]
}

export interface Readiness {
  readonly rungs: readonly RungReadiness[]
  readonly ladders: readonly { readonly handshake: Handshake; readonly ladder: Ladder }[]
  readonly ledger: readonly LedgerEntry[]
  /** How many entries of the ledger are open. */
  readonly openCount: number
  /** Why the job cannot be handed over yet; empty when it can. */
  readonly blocks: readonly string[]
}

/** The ladder of every handshake. */
export function laddersOf(job: Job, ladderFor: LadderOf = handshakeLadderOf): Readiness['ladders'] {
  return job.handshakes.map((handshake) => ({ handshake, ladder: ladderFor(job, handshake) }))
}

/**
 * Readiness of a whole job. Whatever is open in the ledger keeps hand-over shut.
 * @param temporary what first contact left open: a job is never judged without it
 */
export function readinessOf(
  job: Job,
  temporary: readonly TemporaryThing[],
  ladderFor: LadderOf = handshakeLadderOf,
): Readiness {
  const ladders = laddersOf(job, ladderFor)
  const ledger = ledgerOf(job, temporary)
  const byRung = rungs.map((facts, index): RungReadiness => {
    const counts: Record<RungState, number> = {
      'not-started': 0,
      'in-hand': 0,
      waiting: 0,
      proven: 0,
      'at-odds': 0,
      parked: 0,
      'not-apply': 0,
    }
    const open: RungReadiness['open'][number][] = []
    for (const { handshake, ladder } of ladders) {
      const rung = ladder.rungs[index]
      if (!rung) continue
      counts[rung.state] += 1
      if (rung.state !== 'proven' && rung.state !== 'not-apply') {
        open.push({
          handshakeId: handshake.id,
          name: handshake.name,
          state: rung.state,
          missing: rung.missing || rung.because,
        })
      }
    }
    return { rung: facts.id, name: facts.name, counts, needed: ladders.length - counts['not-apply'], open }
  })
  const blocks: string[] = [...ledgerBlocks(ledger)]
  const odds = ladders.filter(({ ladder }) => ladder.rungs.some((rung) => rung.state === 'at-odds'))
  if (odds.length > 0) blocks.push(`At odds: ${odds.map(({ handshake }) => handshake.name).join(', ')}.`)
  const unread = ladders.filter(({ ladder }) =>
    ladder.rungs.some(
      (rung) => rung.rung === 'reading' && !['proven', 'parked', 'not-apply', 'at-odds'].includes(rung.state),
    ),
  )
  if (unread.length > 0)
    blocks.push(`Reading not yet proven: ${unread.map(({ handshake }) => handshake.name).join(', ')}.`)
  if (ladders.length === 0) blocks.push('There is no handshake yet.')
  return { rungs: byRung, ladders, ledger, openCount: ledger.filter(isOpen).length, blocks }
}

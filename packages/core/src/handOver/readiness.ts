import { rungs, type Ladder, type Rung, type RungState } from '../ladder'
import { handshakeLadderOf, type Handshake, type Job, type LadderOf } from '../job'
import type { WalkRecord } from '../procedure'
import { isOpen, ledgerOf, type LedgerEntry } from './ledger'
import { knownPointsOf, openPointsOf, type KnownPoint, type OpenPoint } from './openPoints'

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
  /** Everything that stands against hand-over, in sentences; empty when nothing does. */
  readonly open: readonly OpenPoint[]
  /** What was decided with a reason: nothing stands against it, and whoever takes over has to know. */
  readonly known: readonly KnownPoint[]
  /** Points that have to be proven, over all handshakes, and how many are. */
  readonly points: { readonly proven: number; readonly of: number }
}

/** The ladder of every handshake. */
export function laddersOf(job: Job, ladderFor: LadderOf = handshakeLadderOf): Readiness['ladders'] {
  return job.handshakes.map((handshake) => ({ handshake, ladder: ladderFor(job, handshake) }))
}

/**
 * Readiness of a whole job: every handshake, every rung that applies, every point that has to be proven, every device,
 * and everything that waits, was asked, is forced or temporary.
 * @param walk what first contact keeps: a job is never judged without it
 */
export function readinessOf(job: Job, walk: WalkRecord, ladderFor: LadderOf = handshakeLadderOf): Readiness {
  const ladders = laddersOf(job, ladderFor)
  const ledger = ledgerOf(job, walk.temporary)
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
  const source = { job, walk, ladders, ledger, ladderFor }
  const points = ladders.flatMap(({ ladder }) => ladder.rungs.flatMap((rung) => rung.points))
  return {
    rungs: byRung,
    ladders,
    ledger,
    openCount: ledger.filter(isOpen).length,
    open: openPointsOf(source),
    known: knownPointsOf(source),
    points: { proven: points.filter(({ state }) => state === 'proven').length, of: points.length },
  }
}

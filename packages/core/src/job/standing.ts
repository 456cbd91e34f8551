import type { Evidence } from '../evidence'
import type { Ladder } from '../ladder'
import { claspOf, type Clasp, type TermId } from '../terms'
import { evidenceOf } from './evidenceOf'
import { handshakeLadderOf } from './handshakeLadder'
import { deviceOf } from './deviceOf'
import { handshakeTermsOf, termContextOf } from './handshakeTerms'
import { lineSays } from './lineMates'
import type { Device, Handshake, Job, SeenTerm } from './model'
import { lineOf } from './serialLine'
import { seenAt, standingOfRow, type RowStanding } from './termStandings'

/** Everything that a handshake's clasp and ladder are computed from, besides the handshake itself. */
type Roots = readonly (
  Job['networks'] | Job['kinds'] | Job['lines'] | Device | Evidence | SeenTerm | string | undefined
)[]

function rootsOf(job: Job, handshake: Handshake): Roots {
  const chain: (Device | undefined)[] = [deviceOf(job, handshake.controllerId)]
  let current = deviceOf(job, handshake.deviceId)
  // The device, and what it hangs behind: its address may be that of a gateway.
  while (current && !chain.slice(1).includes(current)) {
    chain.push(current)
    current = current.behindId === null ? undefined : deviceOf(job, current.behindId)
  }
  const line = lineOf(job, handshake)
  const holders = [handshake.id, handshake.deviceId, ...chain.flatMap((each) => each?.ports.map(({ id }) => id) ?? [])]
  const seen = job.standings.length === 0 ? [] : [...holders, line?.id ?? ''].flatMap((id) => seenAt(job, id))
  return [
    job.networks,
    job.kinds,
    job.lines,
    ...chain,
    lineSays(job, handshake),
    ...seen,
    ...evidenceOf(job, handshake),
  ]
}

/** Remembers a result for a handshake as long as nothing that it was computed from has changed. */
function remembered<T>(compute: (job: Job, handshake: Handshake) => T): (job: Job, handshake: Handshake) => T {
  const known = new WeakMap<Handshake, { readonly roots: Roots; readonly value: T }>()
  return (job, handshake) => {
    const roots = rootsOf(job, handshake)
    const before = known.get(handshake)
    if (before && before.roots.length === roots.length && before.roots.every((root, k) => root === roots[k])) {
      return before.value
    }
    const value = compute(job, handshake)
    known.set(handshake, { roots, value })
    return value
  }
}

/** The clasp of a handshake; computed again only when the handshake or one of its ends changed. */
export const claspFor: (job: Job, handshake: Handshake) => Clasp = remembered((job, handshake) =>
  claspOf(termContextOf(job, handshake)),
)

/** How every row of a clasp stands at both ends: planned, as found, entered, in force. */
export const standingFor: (job: Job, handshake: Handshake) => ReadonlyMap<TermId, RowStanding> = remembered(
  (job, handshake) => {
    const terms = handshakeTermsOf(job, handshake)
    return new Map(
      claspFor(job, handshake).rows.map((row) => [row.id, standingOfRow(job, handshake, row, terms)] as const),
    )
  },
)

/** The ladder of a handshake; computed again only when the handshake, its ends or its evidence changed. */
export const ladderFor: (job: Job, handshake: Handshake) => Ladder = remembered((job, handshake) => {
  const standings = standingFor(job, handshake)
  return handshakeLadderOf(job, handshake, {
    clasp: claspFor(job, handshake),
    standing: (row) => standings.get(row.id) ?? nothingSeen,
  })
})

const nothingSeen: RowStanding = { controller: { state: 'open', seen: {} }, device: { state: 'open', seen: {} } }

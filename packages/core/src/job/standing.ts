import type { Evidence } from '../evidence'
import type { Ladder } from '../ladder'
import { claspOf, type Clasp, type TermId } from '../terms'
import { evidenceOf } from './evidenceOf'
import { handshakeLadderOf } from './handshakeLadder'
import { deviceOf } from './deviceOf'
import { handshakeTermsOf, termContextOf } from './handshakeTerms'
import { lineSays } from './lineMates'
import type { Device, Handshake, Job, SeenTerm } from './model'
import { devicesPluggedInto } from './plugged'
import { lineOf } from './serialLine'
import { seenAt, standingOfRow, type RowStanding } from './termStandings'

/** Everything that a handshake's clasp and ladder are computed from, besides the handshake itself. */
type Roots = readonly (
  Job['networks'] | Job['kinds'] | Job['lines'] | Device | Evidence | SeenTerm | string | undefined
)[]

function rootsOf(job: Job, handshake: Handshake): Roots {
  const device = deviceOf(job, handshake.deviceId)
  const chain: (Device | undefined)[] = [deviceOf(job, handshake.controllerId)]
  let current = device
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
    // The bytes of a head are the sum of its modules'.
    ...(device ? devicesPluggedInto(job, device) : []),
    lineSays(job, handshake),
    ...seen,
    ...evidenceOf(job, handshake),
  ]
}

/** What follows from a handshake: each part is computed when it is first asked for. */
interface Following {
  readonly clasp: () => Clasp
  readonly standing: () => ReadonlyMap<TermId, RowStanding>
  readonly ladder: () => Ladder
}

function followingFrom(job: Job, handshake: Handshake): Following {
  const terms = once(() => handshakeTermsOf(job, handshake))
  const clasp = once(() => claspOf(termContextOf(job, handshake, terms())))
  const standing = once(
    () => new Map(clasp().rows.map((row) => [row.id, standingOfRow(job, handshake, row, terms())] as const)),
  )
  const ladder = once(() =>
    handshakeLadderOf(job, handshake, {
      terms: terms(),
      clasp: clasp(),
      standing: (row) => standing().get(row.id) ?? nothingSeen,
    }),
  )
  return { clasp, standing, ladder }
}

function once<T extends object>(make: () => T): () => T {
  let made: T | undefined
  return () => (made ??= make())
}

interface Remembered {
  /** The job that it was last asked for: of the same one nothing needs to be compared. */
  readonly job: Job
  readonly roots: Roots
  readonly following: Following
}
const remembered = new WeakMap<Handshake, Remembered>()

/** What follows from a handshake, remembered as long as nothing that it is computed from has changed. */
function followingOf(job: Job, handshake: Handshake): Following {
  const before = remembered.get(handshake)
  if (before?.job === job) return before.following
  const roots = rootsOf(job, handshake)
  const isSame = before?.roots.length === roots.length && before.roots.every((root, k) => root === roots[k])
  const following = isSame ? before.following : followingFrom(job, handshake)
  remembered.set(handshake, { job, roots, following })
  return following
}

/** The clasp of a handshake; computed again only when the handshake or something it rests on changed. */
export const claspFor = (job: Job, handshake: Handshake): Clasp => followingOf(job, handshake).clasp()

/** How every row of a clasp stands at both ends: planned, as found, entered, in force. */
export const standingFor = (job: Job, handshake: Handshake): ReadonlyMap<TermId, RowStanding> =>
  followingOf(job, handshake).standing()

/** The ladder of a handshake; computed again only when the handshake, its ends or its evidence changed. */
export const ladderFor = (job: Job, handshake: Handshake): Ladder => followingOf(job, handshake).ladder()

const nothingSeen: RowStanding = { controller: { state: 'open', seen: {} }, device: { state: 'open', seen: {} } }

import { factsOf, type Evidence } from '../evidence'
import type { Rung } from '../ladder'
import { termDefinition, type ClaspRow, type End, type HandshakeTerms, type TermEntry, type TermId } from '../terms'
import { groupedBy } from '../units'
import { deviceOf } from './deviceOf'
import { evidenceOf } from './evidenceOf'
import { reachedAt } from './reachedAt'
import type { Handshake, Job, SeenTerm } from './model'
import { lineOf } from './serialLine'
import type { TermStanding } from './standingWords'

/** One value that was seen at one end, and how it is known. */
export interface Seen {
  readonly text: string
  readonly notation?: TermEntry['notation']
  readonly at: number
  readonly who: string
  /** In words: `read live`, `the rung Reached`. */
  readonly how: string
  readonly origin: string
}

/** The latest of each standing. */
export type EndStandings = Readonly<Partial<Record<TermStanding, Seen>>>

/**
 * `open`: nothing more is known than the plan. `to-enter`: found with something else. `pending`: entered as planned, not
 * in force yet. `in-force`: at work as planned. `otherwise`: something else than the plan is at work, or was entered.
 */
export type StandingState = 'open' | 'to-enter' | 'pending' | 'in-force' | 'otherwise'

export interface EndStanding {
  readonly state: StandingState
  readonly seen: EndStandings
}

/** How a row of the clasp stands at both ends. */
export type RowStanding = Readonly<Record<End, EndStanding>>

/** The row that holds a term at one end: what is said of it there counts wherever that row is used. */
export function holderOf(job: Job, handshake: Handshake, id: TermId, end: End): string {
  const device = deviceOf(job, end === 'controller' ? handshake.controllerId : handshake.deviceId)
  switch (id) {
    case 'address':
    case 'port':
      return end === 'device' ? (reachedAt(job, device)?.id ?? handshake.id) : handshake.id
    case 'mask':
      return (end === 'device' ? reachedAt(job, device)?.id : device?.ports[0]?.id) ?? handshake.id
    case 'unit-id':
    case 'node':
    case 'firmware':
    case 'hardware':
      return end === 'device' ? handshake.deviceId : handshake.id
    case 'line-settings':
      return end === 'controller' ? (lineOf(job, handshake)?.id ?? handshake.id) : handshake.deviceId
    default:
      return handshake.id
  }
}

const indexes = new WeakMap<readonly SeenTerm[], ReadonlyMap<string, readonly SeenTerm[]>>()

/** Everything that was seen of the terms that a row holds. */
export function seenAt(job: Job, holderId: string): readonly SeenTerm[] {
  const index = indexes.get(job.standings) ?? groupedBy(job.standings, ({ subjectId }) => subjectId)
  indexes.set(job.standings, index)
  return index.get(holderId) ?? []
}

/** What a rung that was seen tells of terms at the device: it answered there, or its value was right read with them. */
const shownBy: Readonly<Partial<Record<Rung, readonly TermId[]>>> = {
  reached: ['address', 'port', 'unit-id'],
  reading: [
    'address',
    'port',
    'unit-id',
    'function-code',
    'first-register',
    'count',
    'data-type',
    'word-order',
    'scale',
  ],
}

/** How a device is reached and asked, wherever a value lies in it. */
const wayTo: readonly TermId[] = ['address', 'port', 'unit-id', 'function-code']

/** What evidence shows to be in force at an end, as the terms stood then; the latest one. */
function byEvidence(all: readonly Evidence[], id: TermId, end: End): Seen | undefined {
  let latest: Seen | undefined
  for (const { rung, verdict, basis, at, who } of all) {
    if (verdict !== 'proven') continue
    // A point that was read from a place of its own tells nothing of the place that the terms say.
    const shown = basis.source === undefined ? shownBy[rung] : shownBy[rung]?.filter((each) => wayTo.includes(each))
    const shows = rung === 'agreed' || (end === 'device' && (shown?.includes(id) ?? false))
    const text = basis[`${id}.${end}`]
    if (!shows || text === undefined || text === '' || (latest && latest.at > at)) continue
    latest = { text, at, who, how: rung === 'agreed' ? 'confirmed' : 'read live', origin: rungOrigin[rung] ?? '' }
  }
  return latest
}
const rungOrigin: Readonly<Partial<Record<Rung, string>>> = {
  agreed: 'said to be in force',
  reached: 'it answered there',
  reading: 'the value was right',
}

/** Whether two texts of a term mean the same at one end. */
export function meansTheSame(
  id: TermId,
  end: End,
  one: Pick<TermEntry, 'text' | 'notation'>,
  other: Pick<TermEntry, 'text' | 'notation'>,
  terms: HandshakeTerms,
): boolean {
  if (one.text.trim() === other.text.trim()) return one.notation === other.notation || !one.notation || !other.notation
  const term = termDefinition(id)
  const shown = (entry: Pick<TermEntry, 'text' | 'notation'>) => {
    const made: TermEntry = { ...entry, origin: '' }
    const read = term.parse(made, { terms, end })
    return read.ok ? term.format(read.value, made, { terms, end }) : undefined
  }
  const text = shown(one)
  return text !== undefined && text === shown(other)
}

/** The four columns of one row of the clasp: what was seen at each end, and how that stands to the plan. */
export function standingOfRow(job: Job, handshake: Handshake, row: ClaspRow, terms: HandshakeTerms): RowStanding {
  const evidence = evidenceOf(job, handshake)
  return { controller: atEnd('controller'), device: atEnd('device') }

  function atEnd(end: End): EndStanding {
    const seen: Partial<Record<TermStanding, Seen>> = {}
    const shown = byEvidence(evidence, row.id, end)
    if (shown) seen['in-force'] = shown
    const told = row.id === 'firmware' && end === 'device' ? toldByItself(evidence) : undefined
    if (told) seen.found = told
    for (const { termId, end: at, standing, ...each } of seenAt(job, holderOf(job, handshake, row.id, end))) {
      if (termId !== row.id || at !== end) continue
      const before = seen[standing]
      if (!before || each.at >= before.at) seen[standing] = { ...each, notation: each.notation ?? undefined }
    }
    const reading = row.ends[end]
    const planned = reading.state === 'blank' ? undefined : reading.entry
    return {
      seen,
      state: stateOf(seen, (text) => planned !== undefined && meansTheSame(row.id, end, planned, text, terms)),
    }
  }
}

/** The version that a device told of itself when it was last reached. */
function toldByItself(all: readonly Evidence[]): Seen | undefined {
  let latest: Seen | undefined
  for (const { rung, facts, at, who } of all) {
    const revision = rung === 'reached' ? factsOf(facts, 'identity').find(({ name }) => name === 'revision') : undefined
    if (revision && (!latest || at >= latest.at))
      latest = { text: revision.text, at, who, how: 'read live', origin: 'it told so itself' }
  }
  return latest
}

/** How what was seen stands to the plan. What was found was at work when it was found. */
function stateOf(
  { found, entered, 'in-force': inForce }: EndStandings,
  asPlanned: (seen: Seen) => boolean,
): StandingState {
  const atWork = !inForce || (found && found.at > inForce.at) ? found : inForce
  const isLater = entered !== undefined && (atWork === undefined || entered.at > atWork.at)
  if (isLater) {
    if (!asPlanned(entered)) return 'otherwise'
    return atWork && asPlanned(atWork) ? 'in-force' : 'pending'
  }
  if (!atWork) return 'open'
  if (asPlanned(atWork)) return 'in-force'
  return atWork === inForce ? 'otherwise' : 'to-enter'
}

/** How many rows stand how; what the rung Agreed is judged by. */
export interface TermsInForce {
  /** Rows of which both ends are in force as planned. */
  readonly inForce: number
  /** Names of terms that are entered and not in force. */
  readonly pending: readonly string[]
  /** Names of terms of which something else than the plan is in force or entered. */
  readonly otherwise: readonly string[]
}

/** Counts rows by how they stand. An end that nobody says by itself (a limit, a calculation) needs no confirmation. */
export function termsInForce(rows: readonly ClaspRow[], standingOf: (row: ClaspRow) => RowStanding): TermsInForce {
  const pending: string[] = []
  const otherwise: string[] = []
  let inForce = 0
  for (const row of rows) {
    const standing = standingOf(row)
    const states = (['controller', 'device'] as const).flatMap((end) => {
      const reading = row.ends[end]
      return reading.state === 'read' && reading.derived ? [] : [standing[end].state]
    })
    if (states.includes('otherwise')) otherwise.push(row.name)
    else if (states.includes('pending')) pending.push(row.name)
    else if (states.length > 0 && states.every((state) => state === 'in-force')) inForce += 1
  }
  return { inForce, pending, otherwise }
}

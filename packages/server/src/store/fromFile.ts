import { createHash, randomUUID } from 'node:crypto'
import type { FromFile } from '@calm/contract/api'
import type { Sealed } from '@calm/contract/jobFile'
import type { Evidence } from '@calm/core/evidence'
import type { Acceptance, Job, StoredDecision } from '@calm/core/job'
import type { WalkRecord } from '@calm/core/procedure'
import type { EntityManager } from 'typeorm'
import { textProblems } from '@calm/contract'
import { decisions, evidence, insertRows, keepsakes, logEntries } from '../db'
import { CHAIN_START, firstBroken } from './chain'
import { keep } from './keepsakes'
import { refusedBecause } from './refusals'
import type { Tx } from './store'
import { storedEvidence, storedRow, writeJobAnew } from './writeJob'

/** What of a job proves something, or lets something stand: it does not count where nobody here saw it. */
interface Proofs {
  readonly evidence: readonly Evidence[]
  readonly acceptances: readonly Acceptance[]
  readonly decisions: readonly (StoredDecision & { readonly handshakeId: string })[]
}

type Kept = Omit<FromFile, 'who' | 'at' | 'takenOver'> & { readonly proofs: Proofs }

const FROM_FILE = 'from-file'
const TAKEN_OVER = 'taken-over'

const proofsOf = ({ evidence: seen, acceptances, handshakes }: Job): Proofs => ({
  evidence: seen,
  acceptances,
  decisions: handshakes.flatMap(({ id, decisions: made }) => made.map((row) => ({ ...row, handshakeId: id }))),
})

/** Seals what a job proves with the last entry of its log. */
export function sealOf(job: Job, lastHash: string): string {
  return createHash('sha256')
    .update(`${lastHash} ${JSON.stringify(proofsOf(job))}`)
    .digest('hex')
}

/** Longer logs are left out of a job file. */
const LONGEST_LOG = 4_000_000

/** The log of a job for its file, with the seal; `undefined` where it is too long, or holds what no file may hold. */
export async function sealedLog(manager: EntityManager, job: Job): Promise<Sealed | undefined> {
  const rows = await manager.find(logEntries, { where: { jobId: job.id }, order: { sequence: 'ASC' } })
  const log = rows.map(({ sequence: _sequence, ...entry }) => entry)
  const text = JSON.stringify(log)
  if (text.length > LONGEST_LOG || textProblems(log).length > 0) return undefined
  return { log, seal: sealOf(job, log.at(-1)?.hash ?? CHAIN_START) }
}

/** Why the chain of a file does not hold what the file says; `null` where it does. */
export function brokenSeal(job: Job, sealed: Sealed | undefined): string | null {
  if (!sealed) return 'The file has no log: nothing tells where what it proves was seen.'
  const { log, seal } = sealed
  const entries = log.map((entry, k) => ({ ...entry, sequence: k + 1 }))
  const broken = entries.find(({ jobId }) => jobId !== job.id) ?? firstBroken(entries)
  if (broken) return `Entry ${broken.sequence} of its log was changed, or one before it is missing.`
  if (seal !== sealOf(job, log.at(-1)?.hash ?? CHAIN_START))
    return 'What the file says was seen is not what was sealed with its log.'
  const told = toldIn(log)
  const { evidence: seen, acceptances, decisions: made } = proofsOf(job)
  const all = [...seen, ...acceptances, ...made]
  const untold = all.filter(({ who, at }) => !told.has(`${who} ${at}`)).length
  if (untold === 0) return null
  return `Its log does not tell of ${untold === all.length ? 'any' : untold} of the ${all.length} things that it proves or lets stand.`
}

/** Who wrote when, also what was taken over from an earlier file, and what a sample job was laid out with. */
function toldIn(log: Sealed['log']): ReadonlySet<string> {
  const told = new Set(log.map(({ who, at }) => `${who} ${at}`))
  for (const { what, detail } of log) {
    if (!what.startsWith(TAKEN) && what !== SAMPLE) continue
    for (const each of toldBy(detail)) told.add(each)
  }
  return told
}

/** A log in a file may hold anything. */
function toldBy(detail: string): readonly string[] {
  try {
    const { told } = JSON.parse(detail) as { readonly told?: unknown }
    return Array.isArray(told) ? told.filter((each) => typeof each === 'string') : []
  } catch {
    return []
  }
}

const TAKEN = 'Taken over from the file'

/** A sample job is laid out with what is proven in it. */
export const SAMPLE = 'Sample job begun'

/** Takes a job in. What it proves is kept aside: it counts when a lead has taken it over. */
export async function importJob(
  tx: Tx,
  job: Job,
  walk: WalkRecord,
  file: { readonly exportedAt: string; readonly sealed: Sealed | undefined },
): Promise<string> {
  const proofs = proofsOf(job)
  const handshakes = job.handshakes.map((handshake) => ({ ...handshake, decisions: [] }))
  const bare: Job = { ...job, evidence: [], acceptances: [], handshakes }
  const { jobId, ids } = await writeJobAnew(tx, bare, 'Job imported from a file', walk)
  const counts = {
    evidenceCount: proofs.evidence.length,
    acceptanceCount: proofs.acceptances.length,
    decisionCount: proofs.decisions.length,
  }
  if (Object.values(counts).every((count) => count === 0)) return jobId
  const content: Kept = {
    name: job.name,
    exportedAt: file.exportedAt,
    ...counts,
    broken: brokenSeal(job, file.sealed),
    proofs: withNewIds(proofs, ids),
  }
  await keep(tx, jobId, { deviceId: null, kind: FROM_FILE, title: 'What came with the file', content })
  return jobId
}

function withNewIds(proofs: Proofs, ids: ReadonlyMap<string, string>): Proofs {
  const fresh = (id: string) => ids.get(id) ?? id
  return {
    evidence: proofs.evidence.map((each) => ({ ...each, subject: { ...each.subject, id: fresh(each.subject.id) } })),
    acceptances: proofs.acceptances.map((each) => ({ ...each, subjectId: fresh(each.subjectId) })),
    decisions: proofs.decisions.map((each) => ({ ...each, handshakeId: fresh(each.handshakeId) })),
  }
}

/** What came with the file of a job, and whether it was taken over; `null` where nothing did. */
export async function readFromFile(
  manager: EntityManager,
  jobId: string,
): Promise<(FromFile & Pick<Kept, 'proofs'>) | null> {
  const [came] = await manager.find(keepsakes, { where: { jobId, kind: FROM_FILE } })
  if (!came) return null
  const [taken] = await manager.find(keepsakes, { where: { jobId, kind: TAKEN_OVER } })
  return {
    ...(JSON.parse(came.content) as Kept),
    who: came.who,
    at: came.at,
    takenOver: taken ? { who: taken.who, at: taken.at } : null,
  }
}

/**
 * Takes over what came with the file, so that it counts here as what it was. Whatever is about something that is not there
 * any more stays aside.
 *
 * @throws Refused where nothing came, it was taken over before, or the chain of the file is not whole
 */
export async function takeOver(tx: Tx, jobId: string): Promise<void> {
  const came = await readFromFile(tx.manager, jobId)
  if (!came) throw refusedBecause('No evidence came with a file.', 'a job with evidence from a file', jobId, 'id')
  if (came.takenOver) throw refusedBecause('It was taken over already.', 'once', came.takenOver.who, 'from-file')
  if (came.broken !== null)
    throw refusedBecause(came.broken, 'a file whose chain is whole', 'a broken chain', 'from-file')
  const job = await tx.job(jobId)
  const there = idsOf(job)
  const { proofs } = came
  const seen = proofs.evidence.filter(({ subject }) => there.has(subject.id))
  const made = proofs.decisions.filter(({ handshakeId }) => there.has(handshakeId))
  const anew = () => randomUUID()
  for (const each of seen) {
    const row = storedEvidence(each, jobId, (id) => id)
    await tx.manager.insert(evidence, { ...row, id: anew() })
  }
  for (const each of made) await tx.manager.insert(decisions, { ...each, id: anew() })
  const rows = proofs.acceptances.map((each) => ({
    ...storedRow('acceptance', each as never, jobId, (id) => id),
    id: anew(),
  }))
  if (rows.length > 0) await insertRows(tx.manager, 'acceptance', rows)
  tx.forget(jobId)
  const told = [...new Set([...seen, ...made, ...proofs.acceptances].map(({ who, at }) => `${who} ${at}`))]
  const left = proofs.evidence.length - seen.length + proofs.decisions.length - made.length
  await tx.log(
    jobId,
    `${TAKEN} of "${came.name}", written ${came.exportedAt}: ${seen.length} pieces of evidence, ${made.length} decisions, ${rows.length} findings let stand.${left > 0 ? ` ${left} were about what is not there any more.` : ''}`,
    { told },
  )
  await keep(tx, jobId, {
    deviceId: null,
    kind: TAKEN_OVER,
    title: 'What came with the file was taken over',
    content: {},
  })
}

/** A job for its file: what came with an earlier file and was not taken over goes on with it, and nothing is lost. */
export async function withHeld(manager: EntityManager, job: Job): Promise<Job> {
  const came = await readFromFile(manager, job.id)
  if (!came || came.takenOver) return job
  const there = idsOf(job)
  const { proofs } = came
  const byTime = (a: { readonly at: number }, b: { readonly at: number }) => a.at - b.at
  return {
    ...job,
    evidence: [...job.evidence, ...proofs.evidence.filter(({ subject }) => there.has(subject.id))].sort(byTime),
    acceptances: [...job.acceptances, ...proofs.acceptances],
    handshakes: job.handshakes.map((handshake) => {
      const own = proofs.decisions.filter(({ handshakeId }) => handshakeId === handshake.id)
      const decided = own.map(({ handshakeId: _handshake, ...decision }) => decision)
      return decided.length === 0
        ? handshake
        : { ...handshake, decisions: [...handshake.decisions, ...decided].sort(byTime) }
    }),
  }
}

function idsOf(job: Job): ReadonlySet<string> {
  return new Set([
    job.id,
    ...job.networks.map(({ id }) => id),
    ...job.lines.map(({ id }) => id),
    ...job.devices.flatMap(({ id, ports }) => [id, ...ports.map((port) => port.id)]),
    ...job.handshakes.flatMap(({ id, points }) => [id, ...points.map((point) => point.id)]),
  ])
}

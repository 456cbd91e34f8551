import { api } from '@calm/contract/api'
import { textFact, type EvidenceFact } from '@calm/core/evidence'
import { isOpen, ledgerBlocks, ledgerOf, openRungsOf, type LedgerEntry } from '@calm/core/handOver'
import { ladderFor, termContextOf, type Handshake, type Job } from '@calm/core/job'
import { rungStateWords } from '@calm/core/ladder'
import { claspOf, type Clasp, type EndReading } from '@calm/core/terms'
import type { ReachReport, ReadingEvidence } from '@calm/contract'
import { Router } from 'express'
import { askOnPlan } from '../asking'
import { lookAround, reachDevice, reachPlanText, readSettings } from '../live'
import { readingEvidenceOf } from '../record'
import { requireLead } from '../security'
import { addDecision, addEvidence, jobOfHandshake, notFound, readWalk, refusedBecause, type Tx } from '../store'
import type { AppContext } from './context'
import { serve } from './serve'

const MOST_REMEMBERED = 200

interface Place {
  readonly job: Job
  readonly handshake: Handshake
}

function placeIn(job: Job, id: string): Place {
  const handshake = job.handshakes.find((each) => each.id === id)
  if (!handshake) throw notFound('handshake', id)
  return { job, handshake }
}

/** Evidence: what the server saw itself it judges itself; the rest is a person's word. */
export function proofRoutes(app: AppContext): Router {
  const routes = Router()
  const { store } = app

  /** Judges and writes on one and the same state: nobody's change comes between. */
  const prove = <T>(who: string, id: string, work: (tx: Tx, place: Place) => Promise<T>): Promise<T> =>
    store.write(who, async (tx) => work(tx, placeIn(await tx.job(await jobOfHandshake(tx.manager, id)), id)))

  serve(routes, api.addEvidence, async ({ params, body, who, request }) => {
    const { value, ...seen } = body
    if (seen.rung === 'handed-over') requireLead(request, 'sign-off')
    const id = await prove(who, params.id, async (tx, { job, handshake }) => {
      if (seen.rung === 'handed-over' && seen.verdict === 'proven') {
        requireClosedLedger(ledgerOf(job, (await readWalk(tx.manager, job.id)).temporary))
        requireEveryRung(job, handshake)
      }
      return addEvidence(tx, job.id, handshake, { ...seen, facts: [textFact(value)] })
    })
    return { id, verdict: seen.verdict }
  })

  /** Readings that were recorded, by what names them: the same press twice is one evidence. */
  const recorded = new Map<string, Awaited<ReturnType<typeof record>>>()
  serve(routes, api.recordReading, async ({ params, body, who }) => {
    const { deviceReading, controllerReading, controllerTyped, shownTyped } = body
    const name = JSON.stringify([
      params.id,
      body.pointId,
      deviceReading,
      controllerReading,
      controllerTyped,
      shownTyped,
    ])
    const before = recorded.get(name)
    if (before) return before
    const made = await record(who, params.id, body)
    if (recorded.size >= MOST_REMEMBERED) recorded.delete(recorded.keys().next().value ?? '')
    recorded.set(name, made)
    return made
  })
  const record = (who: string, handshakeId: string, body: ReadingEvidence) =>
    prove(who, handshakeId, async (tx, { job, handshake }) => {
      const kept = (sequence: number) => app.live.kept(sequence)
      const { judgement, point, ...content } = readingEvidenceOf(job, handshake, body, kept, app.clock())
      const id = await addEvidence(tx, job.id, handshake, content, point)
      return { id, verdict: content.verdict, say: judgement.say }
    })

  serve(routes, api.reach, async ({ params, who }) => {
    const jobId = await store.read((manager) => jobOfHandshake(manager, params.id))
    const of = (job: Job) => placeIn(job, params.id).handshake
    return askOnPlan(store, {
      who,
      jobId,
      plan: ({ job }) => reachPlanText(job, of(job)),
      ask: ({ job }) => reachDevice(app.liveContext, job, of(job)),
      write: async (tx, { job }, report, witness) => {
        await addEvidence(tx, job.id, of(job), {
          rung: 'reached',
          verdict: report.reached ? 'proven' : 'at-odds',
          how: 'read-live',
          witness,
          facts: reachFacts(report),
        })
        return report
      },
    })
  })

  serve(routes, api.lookAround, async ({ params }) => {
    const jobId = await store.read((manager) => jobOfHandshake(manager, params.id))
    const { job, handshake } = placeIn(await store.jobs.get(jobId), params.id)
    const point = handshake.points.find((each) => each.id === params.pointId)
    if (!point) throw notFound('point', params.pointId)
    return lookAround(app.liveContext, job, handshake, point)
  })

  serve(routes, api.readSettings, async ({ params }) => {
    const jobId = await store.read((manager) => jobOfHandshake(manager, params.id))
    const { job, handshake } = placeIn(await store.jobs.get(jobId), params.id)
    return readSettings(app.liveContext, job, handshake)
  })

  serve(routes, api.agreed, async ({ params, who }) => ({
    id: await prove(who, params.id, async (tx, { job, handshake }) => {
      const clasp = claspOf(termContextOf(job, handshake))
      requireAgreement(clasp)
      const facts = termFacts(clasp)
      return addEvidence(tx, job.id, handshake, { rung: 'agreed', verdict: 'proven', how: 'seen', facts })
    }),
  }))

  serve(routes, api.decide, async ({ params, body, who, request }) => {
    if (body.rung === 'handed-over') requireLead(request, 'sign-off')
    return {
      id: await prove(who, params.id, (tx, { job, handshake }) => addDecision(tx, job.id, handshake, body)),
    }
  })

  return routes
}

function reachFacts(report: ReachReport): readonly EvidenceFact[] {
  return [
    { kind: 'asked', at: report.asked, answered: report.reached },
    ...report.steps.map((step): EvidenceFact => ({ kind: 'step', ...step })),
    ...report.identity.map((each): EvidenceFact => ({ kind: 'identity', ...each })),
  ]
}

const textAt = (reading: EndReading): string => (reading.state === 'read' ? reading.shown : '')

const termFacts = (clasp: Clasp): readonly EvidenceFact[] =>
  clasp.rows.map((row) => ({
    kind: 'term',
    term: row.name,
    controller: textAt(row.ends.controller),
    device: textAt(row.ends.device),
    state: row.state,
  }))

function requireAgreement(clasp: Clasp): void {
  const open = clasp.rows.filter((row) => row.state !== 'equal' && row.state !== 'fits')
  if (open.length === 0) return
  throw refusedBecause(
    `Not every term agrees: ${open.map((row) => row.name.toLowerCase()).join(', ')}.`,
    `${clasp.total} of ${clasp.total} terms agree`,
    `${clasp.agreeing} of ${clasp.total}`,
  )
}

/** Nothing is handed over while something is held by hand, or has not been seen to be back. */
function requireClosedLedger(ledger: readonly LedgerEntry[]): void {
  const blocks = ledgerBlocks(ledger)
  if (blocks.length === 0) return
  throw refusedBecause(
    `${blocks.join(' ')} Hand-over stays shut until all is seen back.`,
    'nothing open in the ledger',
    `${ledger.filter(isOpen).length} open`,
  )
}

/** Signed is what was seen: every rung before the sign-off is proven, does not apply, or is parked with a reason. */
function requireEveryRung(job: Job, handshake: Handshake): void {
  const open = openRungsOf(ladderFor(job, handshake))
  if (open.length === 0) return
  throw refusedBecause(
    `Not proven yet: ${open.map(({ name, state }) => `${name} (${rungStateWords[state]})`).join(', ')}.`,
    'every rung proven, or parked with a reason',
    `${open.length} open`,
  )
}

import { newDecision, newEvidence, readingEvidence, type NewEvidence, type ReadingEvidence } from '@calm/contract'
import { isOpen, ledgerBlocks, ledgerOf, type LedgerEntry } from '@calm/core/handOver'
import { termContextOf, type Handshake, type Job } from '@calm/core/job'
import { claspOf, type Clasp } from '@calm/core/terms'
import { Router, type Request } from 'express'
import { handshakes } from '../db'
import { reachDevice, reachPlanText } from '../live'
import { readingEvidenceOf } from '../record'
import { addDecision, addEvidence, notFound, readJob, readWalk, refusedBecause, type Tx } from '../store'
import { requireLead } from '../security'
import type { AppContext } from './context'
import { bodyOf, partOf } from './input'

interface Place {
  readonly job: Job
  readonly handshake: Handshake
}

/** Evidence: what the server saw itself it judges itself; the rest is a person's word. */
export function proofRoutes(app: AppContext): Router {
  const routes = Router()
  const { store } = app

  const placeOf = async (request: Request, jobOf: (jobId: string) => Promise<Job>): Promise<Place> => {
    const id = partOf(request, 'id')
    const row = await store.source.manager.findOne(handshakes, { where: { id } })
    const job = row ? await jobOf(row.jobId) : undefined
    const handshake = job?.handshakes.find((each) => each.id === id)
    if (!job || !handshake) throw notFound('handshake', id)
    return { job, handshake }
  }
  /** Judges and writes on one and the same state: nobody's change comes between. */
  const prove = <T>(request: Request, work: (tx: Tx, place: Place) => Promise<T>): Promise<T> =>
    store.write(request.who.name, async (tx) => work(tx, await placeOf(request, (jobId) => readJob(tx.manager, jobId))))

  routes.post('/handshakes/:id/evidence', async (request, response) => {
    const content = bodyOf<NewEvidence>(request, newEvidence)
    if (content.rung === 'handed-over') requireLead(request, 'sign-off')
    const id = await prove(request, async (tx, { job, handshake }) => {
      if (content.rung === 'handed-over' && content.verdict === 'proven') {
        requireClosedLedger(ledgerOf(job, (await readWalk(tx.manager, job.id)).temporary))
      }
      return addEvidence(tx, job, handshake, { ...content, detail: [] })
    })
    response.status(201).json({ id, verdict: content.verdict })
  })

  routes.post('/handshakes/:id/reading', async (request, response) => {
    const named = bodyOf<ReadingEvidence>(request, readingEvidence)
    const answer = await prove(request, async (tx, { job, handshake }) => {
      const kept = (sequence: number) => app.live.kept(sequence)
      const { judgement, ...content } = readingEvidenceOf(job, handshake, named, kept, app.clock())
      const id = await addEvidence(tx, job, handshake, content)
      return { id, verdict: content.verdict, say: judgement.say }
    })
    response.status(201).json(answer)
  })

  routes.post('/handshakes/:id/reach', async (request, response) => {
    const asked = await placeOf(request, (jobId) => app.jobs.get(jobId))
    const report = await reachDevice(app.liveContext, asked.job, asked.handshake)
    const named = report.identity.map(({ name, text }) => `${name} ${text}`).join(', ')
    const value = report.reached
      ? `Answered at ${report.asked}${named ? `: ${named}` : ''}.`
      : `Not reached at ${report.asked || 'its planned address'}: ${report.steps.at(-1)?.what ?? ''}`
    await prove(request, async (tx, { job, handshake }) => {
      requireSamePlan(asked, { job, handshake })
      await addEvidence(tx, job, handshake, {
        rung: 'reached',
        verdict: report.reached ? 'proven' : 'at-odds',
        how: 'read-live',
        value,
        detail: report.steps.map((step) => `${step.step}: ${step.what}`),
      })
    })
    response.status(201).json(report)
  })

  routes.post('/handshakes/:id/agreed', async (request, response) => {
    const id = await prove(request, async (tx, { job, handshake }) => {
      const clasp = claspOf(termContextOf(job, handshake))
      requireAgreement(clasp)
      return addEvidence(tx, job, handshake, {
        rung: 'agreed',
        verdict: 'proven',
        how: 'seen',
        value: `All ${clasp.total} terms agree and are in force at both ends.`,
        detail: clasp.rows.map((row) => `${row.name}: ${row.state}`),
      })
    })
    response.status(201).json({ id })
  })

  routes.post('/handshakes/:id/decisions', async (request, response) => {
    const content = bodyOf(request, newDecision)
    if (content.rung === 'handed-over') requireLead(request, 'sign-off')
    const id = await prove(request, (tx, { job, handshake }) => addDecision(tx, job, handshake, content))
    response.status(201).json({ id })
  })

  return routes
}

/** What was reached is what is planned: an address changed while it was asked proves nothing. */
function requireSamePlan(asked: Place, now: Place): void {
  const [before, after] = [asked, now].map(({ job, handshake }) => reachPlanText(job, handshake))
  if (before === after && asked.job.mode === now.job.mode) return
  throw refusedBecause(
    'The plan changed while the device was asked; nothing is recorded. Reach it again.',
    after ?? '',
    before ?? '',
  )
}

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

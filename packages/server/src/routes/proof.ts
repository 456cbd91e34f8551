import { newDecision, newEvidence, readingEvidence, type NewEvidence, type ReadingEvidence } from '@calm/contract'
import { readinessOf, termContextOf, type Handshake, type Job } from '@calm/core/job'
import type { WalkRecord } from '@calm/core/procedure'
import { claspOf } from '@calm/core/terms'
import { Router, type Request } from 'express'
import { handshakes } from '../db'
import { reachDevice } from '../live'
import { readingEvidenceOf } from '../record'
import { addDecision, addEvidence, notFound, readWalk, refusedBecause } from '../store'
import type { AppContext } from './context'
import { bodyOf, partOf } from './input'

/** Evidence: what the server saw itself it judges itself; the rest is a person's word. */
export function proofRoutes(app: AppContext): Router {
  const routes = Router()
  const { store } = app

  const handshakeOf = async (request: Request): Promise<{ job: Job; handshake: Handshake }> => {
    const id = partOf(request, 'id')
    const row = await store.source.manager.findOne(handshakes, { where: { id } })
    const job = row ? await app.jobs.get(row.jobId) : undefined
    const handshake = job?.handshakes.find((each) => each.id === id)
    if (!job || !handshake) throw notFound('handshake', id)
    return { job, handshake }
  }

  routes.post('/handshakes/:id/evidence', async (request, response) => {
    const content = bodyOf<NewEvidence>(request, newEvidence)
    const { job, handshake } = await handshakeOf(request)
    if (content.rung === 'handed-over' && content.verdict === 'proven') {
      requireReleased(job)
      requireNothingTemporary(await readWalk(store.source.manager, job.id))
    }
    const id = await store.write(request.who.name, (tx) => addEvidence(tx, job, handshake, { ...content, detail: [] }))
    response.status(201).json({ id, verdict: content.verdict })
  })

  routes.post('/handshakes/:id/reading', async (request, response) => {
    const named = bodyOf<ReadingEvidence>(request, readingEvidence)
    const { job, handshake } = await handshakeOf(request)
    const { judgement, ...content } = readingEvidenceOf(
      job,
      handshake,
      named,
      (sequence) => app.live.kept(sequence),
      app.clock(),
    )
    const id = await store.write(request.who.name, (tx) => addEvidence(tx, job, handshake, content))
    response.status(201).json({ id, verdict: content.verdict, say: judgement.say })
  })

  routes.post('/handshakes/:id/reach', async (request, response) => {
    const { job, handshake } = await handshakeOf(request)
    const report = await reachDevice(app.liveContext, job, handshake)
    const named = report.identity.map(({ name, text }) => `${name} ${text}`).join(', ')
    const value = report.reached
      ? `Answered at ${report.asked}${named ? `: ${named}` : ''}.`
      : `Not reached at ${report.asked || 'its planned address'}: ${report.steps.at(-1)?.what ?? ''}`
    await store.write(request.who.name, (tx) =>
      addEvidence(tx, job, handshake, {
        rung: 'reached',
        verdict: report.reached ? 'proven' : 'at-odds',
        how: 'read-live',
        value,
        detail: report.steps.map((step) => `${step.step}: ${step.what}`),
      }),
    )
    response.status(201).json(report)
  })

  routes.post('/handshakes/:id/agreed', async (request, response) => {
    const { job, handshake } = await handshakeOf(request)
    const clasp = claspOf(termContextOf(job, handshake))
    const open = clasp.rows.filter((row) => row.state !== 'equal' && row.state !== 'fits')
    if (open.length > 0) {
      throw refusedBecause(
        `Not every term agrees: ${open.map((row) => row.name.toLowerCase()).join(', ')}.`,
        `${clasp.total} of ${clasp.total} terms agree`,
        `${clasp.agreeing} of ${clasp.total}`,
      )
    }
    const id = await store.write(request.who.name, (tx) =>
      addEvidence(tx, job, handshake, {
        rung: 'agreed',
        verdict: 'proven',
        how: 'seen',
        value: `All ${clasp.total} terms agree and are in force at both ends.`,
        detail: clasp.rows.map((row) => `${row.name}: ${row.state}`),
      }),
    )
    response.status(201).json({ id })
  })

  routes.post('/handshakes/:id/decisions', async (request, response) => {
    const content = bodyOf(request, newDecision)
    const { job, handshake } = await handshakeOf(request)
    const id = await store.write(request.who.name, (tx) => addDecision(tx, job, handshake, content))
    response.status(201).json({ id })
  })

  return routes
}

/** Nothing is handed over while something is held by hand. */
function requireReleased(job: Job): void {
  const { forcedCount } = readinessOf(job)
  if (forcedCount === 0) return
  throw refusedBecause(
    `${forcedCount} value${forcedCount === 1 ? ' is' : 's are'} still forced. Hand-over stays shut until all are seen released.`,
    'no forced value',
    `${forcedCount} forced`,
  )
}

/** Nor while something temporary has not been seen to be back. */
function requireNothingTemporary({ temporary }: WalkRecord): void {
  const open = temporary.filter((thing) => thing.backAt === null)
  if (open.length === 0) return
  throw refusedBecause(
    `Not back yet: ${open.map((thing) => thing.what).join('; ')}. Hand-over stays shut until all is seen back.`,
    'nothing temporary',
    `${open.length} temporary`,
  )
}

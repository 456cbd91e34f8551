import {
  jobPatch,
  newDevice,
  newForced,
  newHandshake,
  newJob,
  newNetwork,
  readChangeList,
  type NewDevice,
  type NewJob,
} from '@calm/contract'
import { jobFileOf, JOB_FILE_LIMIT, readJobFile } from '@calm/contract/jobFile'
import { laddersOf } from '@calm/core/handOver'
import type { Job } from '@calm/core/job'
import { withParkedWaits } from '@calm/core/procedure'
import express, { Router } from 'express'
import { IsNull } from 'typeorm'
import { jobs } from '../db'
import {
  addDevice,
  addForced,
  addHandshake,
  addJob,
  addRow,
  applyChangeList,
  changeJob,
  readWalk,
  Refused,
  removeJob,
  writeNewJob,
} from '../store'
import { requireLead } from '../security'
import type { AppContext } from './context'
import { bodyOf, partOf } from './input'

const summaries = new WeakMap<Job, object>()

/** What the list of jobs says of one; computed once for each state of the job. */
function summaryOf(job: Job): object {
  const known = summaries.get(job)
  if (known) return known
  const rungs = laddersOf(job).flatMap(({ ladder }) => ladder.rungs)
  const { id, name, place, mode } = job
  const summary = {
    id,
    name,
    place,
    mode,
    deviceCount: job.devices.length,
    handshakeCount: job.handshakes.length,
    provenCount: rungs.filter((rung) => rung.state === 'proven').length,
    neededCount: rungs.filter((rung) => rung.state !== 'not-apply').length,
  }
  summaries.set(job, summary)
  return summary
}

export function jobRoutes(app: AppContext): Router {
  const routes = Router()
  const { store } = app

  routes.get('/jobs', async (_request, response) => {
    const rows = await store.source.manager.find(jobs, { where: { removedAt: IsNull() }, order: { createdAt: 'ASC' } })
    response.json(await Promise.all(rows.map(async ({ id }) => summaryOf(await app.jobs.get(id)))))
  })

  routes.post('/jobs', async (request, response) => {
    const fields = bodyOf<NewJob>(request, newJob)
    const id = await store.write(request.who.name, (tx) => addJob(tx, fields))
    response.status(201).json(await app.jobs.get(id))
  })

  routes.post('/jobs/import', express.text({ type: () => true, limit: JOB_FILE_LIMIT }), async (request, response) => {
    const reading = readJobFile(typeof request.body === 'string' ? request.body : '')
    if (!reading.ok) throw new Refused(422, reading.problems)
    const id = await store.write(request.who.name, (tx) =>
      writeNewJob(tx, reading.job, 'Job imported from a file', withParkedWaits(reading.firstContact)),
    )
    response.status(201).json(await app.jobs.get(id))
  })

  routes.get('/jobs/:jobId', async (request, response) => {
    response.json(await app.jobs.get(partOf(request, 'jobId')))
  })

  routes.patch('/jobs/:jobId', async (request, response) => {
    const change = bodyOf(request, jobPatch)
    await store.write(request.who.name, (tx) => changeJob(tx, partOf(request, 'jobId'), change))
    response.json(await app.jobs.get(partOf(request, 'jobId')))
  })

  routes.delete('/jobs/:jobId', async (request, response) => {
    requireLead(request, 'jobs')
    await store.write(request.who.name, (tx) => removeJob(tx, partOf(request, 'jobId')))
    response.status(204).end()
  })

  routes.get('/jobs/:jobId/export', async (request, response) => {
    const job = await app.jobs.get(partOf(request, 'jobId'))
    const firstContact = await readWalk(store.source.manager, job.id)
    const exportedAt = new Date(app.clock()).toISOString()
    response.attachment(`${fileName(job.name)}.job.json`).json(jobFileOf(job, exportedAt, firstContact))
  })

  routes.post('/jobs/:jobId/networks', async (request, response) => {
    requireLead(request, 'networks')
    const fields = bodyOf(request, newNetwork)
    const id = await store.write(request.who.name, (tx) => addRow(tx, partOf(request, 'jobId'), 'network', fields))
    response.status(201).json({ id })
  })

  routes.post('/jobs/:jobId/devices', async (request, response) => {
    const fields = bodyOf<NewDevice>(request, newDevice)
    const id = await store.write(request.who.name, (tx) => addDevice(tx, partOf(request, 'jobId'), fields))
    response.status(201).json({ id })
  })

  routes.post('/jobs/:jobId/changes', async (request, response) => {
    const reading = readChangeList(request.body)
    if (!reading.ok) throw new Refused(400, reading.problems)
    if (reading.changes.some((change) => change.table === 'network')) requireLead(request, 'networks')
    if (reading.changes.some((change) => change.table === 'acceptance')) requireLead(request, 'findings')
    await store.write(
      request.who.name,
      (tx) => applyChangeList(tx, partOf(request, 'jobId'), reading.changes),
      request.get('x-page'),
    )
    response.status(204).end()
  })

  routes.post('/jobs/:jobId/handshakes', async (request, response) => {
    const ends = bodyOf(request, newHandshake)
    const id = await store.write(request.who.name, (tx) => addHandshake(tx, partOf(request, 'jobId'), ends))
    response.status(201).json({ id })
  })

  routes.post('/jobs/:jobId/forced', async (request, response) => {
    const fields = bodyOf(request, newForced)
    const id = await store.write(request.who.name, (tx) => addForced(tx, partOf(request, 'jobId'), fields))
    response.status(201).json({ id })
  })

  return routes
}

/** A name that every file system takes. */
export function fileName(name: string): string {
  return (
    name
      .normalize('NFKD')
      .replace(/[^A-Za-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '')
      .toLowerCase() || 'job'
  )
}

import { Router } from 'express'
import { logEntries } from '../db'
import { csvText } from '@calm/core/table'
import { asLeftRecord, asLeftTable } from '@calm/core/handOver'
import { CHAIN_START, firstBroken, readWalk } from '../store'
import type { AppContext } from './context'
import { partOf } from './input'
import { fileName } from './jobs'

/** The log and the as-left record, for machines and for spreadsheets. */
export function recordRoutes(app: AppContext): Router {
  const routes = Router()
  const logOf = (jobId: string) =>
    app.store.source.manager.find(logEntries, { where: { jobId }, order: { sequence: 'ASC' } })

  const recordOf = async (jobId: string) => {
    const job = await app.jobs.get(jobId)
    const { temporary } = await readWalk(app.store.source.manager, jobId)
    const log = await logOf(jobId)
    const record = asLeftRecord({
      job,
      temporary,
      madeAt: app.clock(),
      logHash: log.at(-1)?.hash ?? CHAIN_START,
      logWhole: firstBroken(log) === undefined,
    })
    return { job, record }
  }

  routes.get('/jobs/:jobId/log', async (request, response) => {
    const entries = await logOf(partOf(request, 'jobId'))
    const broken = firstBroken(entries)
    response.json({ entries, whole: broken === undefined, brokenAt: broken?.sequence ?? null })
  })

  // The page that is printed draws this one; the files are made of the same.
  routes.get('/jobs/:jobId/record', async (request, response) => {
    response.json((await recordOf(partOf(request, 'jobId'))).record)
  })

  routes.get('/jobs/:jobId/record.json', async (request, response) => {
    const { job, record } = await recordOf(partOf(request, 'jobId'))
    response.attachment(`${fileName(job.name)}-as-left.json`).json(record)
  })

  routes.get('/jobs/:jobId/record.csv', async (request, response) => {
    const { job, record } = await recordOf(partOf(request, 'jobId'))
    response
      .attachment(`${fileName(job.name)}-as-left.csv`)
      .type('text/csv')
      .send(csvText(asLeftTable(record)))
  })

  return routes
}

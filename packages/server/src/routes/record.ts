import { Router } from 'express'
import { csvText } from '@calm/core/table'
import { asLeftRecord, asLeftTable } from '@calm/core/handOver'
import { CHAIN_START, readLog, readWalk } from '../store'
import type { AppContext } from './context'
import { partOf } from './input'
import { fileName } from './jobs'

/** The log and the as-left record, for machines and for spreadsheets. */
export function recordRoutes(app: AppContext): Router {
  const routes = Router()
  const recordOf = async (jobId: string) => {
    const job = await app.jobs.get(jobId)
    const { temporary } = await readWalk(app.store.source.manager, jobId)
    const log = await readLog(app.store.source.manager, jobId)
    const record = asLeftRecord({
      job,
      temporary,
      madeAt: app.clock(),
      logHash: log.entries.at(-1)?.hash ?? CHAIN_START,
      logWhole: log.whole,
    })
    return { job, record }
  }

  routes.get('/jobs/:jobId/log', async (request, response) => {
    response.json(await readLog(app.store.source.manager, partOf(request, 'jobId')))
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

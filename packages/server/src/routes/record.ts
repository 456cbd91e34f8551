import { Router } from 'express'
import { logEntries } from '../db'
import { csvText } from '@calm/core/table'
import { asLeftRecord } from '../record'
import { CHAIN_START, firstBroken } from '../store'
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
    const log = await logOf(jobId)
    return { job, record: asLeftRecord(job, app.clock(), log.at(-1)?.hash ?? CHAIN_START) }
  }

  routes.get('/jobs/:jobId/log', async (request, response) => {
    const entries = await logOf(partOf(request, 'jobId'))
    const broken = firstBroken(entries)
    response.json({ entries, whole: broken === undefined, brokenAt: broken?.sequence ?? null })
  })

  routes.get('/jobs/:jobId/record.json', async (request, response) => {
    const { job, record } = await recordOf(partOf(request, 'jobId'))
    response.attachment(`${fileName(job.name)}-as-left.json`).json(record)
  })

  routes.get('/jobs/:jobId/record.csv', async (request, response) => {
    const { job, record } = await recordOf(partOf(request, 'jobId'))
    const rows = record.handshakes.flatMap((handshake) =>
      handshake.rungs.map((rung) => [
        handshake.name,
        rung.rung,
        rung.state,
        rung.because,
        rung.who,
        rung.at,
        rung.how,
        rung.mode,
      ]),
    )
    const head = ['handshake', 'rung', 'state', 'evidence', 'who', 'when', 'how', 'plant or bench']
    response
      .attachment(`${fileName(job.name)}-as-left.csv`)
      .type('text/csv')
      .send(csvText([head, ...rows]))
  })

  return routes
}

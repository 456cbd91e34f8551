import { api } from '@calm/contract/api'
import { asLeftRecord, asLeftTable } from '@calm/core/handOver'
import { csvText } from '@calm/core/table'
import { Router } from 'express'
import { CHAIN_START, readLog } from '../store'
import type { AppContext } from './context'
import { fileName } from './fileName'
import { serve } from './serve'

/** The log and the as-left record, for machines and for spreadsheets. */
export function recordRoutes({ store, clock }: AppContext): Router {
  const routes = Router()
  const logOf = (jobId: string) => store.read((manager) => readLog(manager, jobId))
  const recordOf = async (jobId: string) => {
    const job = await store.jobs.get(jobId)
    const walk = await store.walks.get(jobId)
    const log = await logOf(jobId)
    const record = asLeftRecord({
      job,
      walk,
      madeAt: clock(),
      logHash: log.entries.at(-1)?.hash ?? CHAIN_START,
      logWhole: log.whole,
    })
    return { name: fileName(job.name), record }
  }

  serve(routes, api.log, ({ params }) => logOf(params.jobId))

  // The page that is printed draws this one; the files are made of the same.
  serve(routes, api.record, async ({ params }) => (await recordOf(params.jobId)).record)

  serve(routes, api.recordAsJson, async ({ params, response }) => {
    const { name, record } = await recordOf(params.jobId)
    response.attachment(`${name}-as-left.json`)
    return record
  })

  serve(routes, api.recordAsCsv, async ({ params, response }) => {
    const { name, record } = await recordOf(params.jobId)
    const text = csvText(asLeftTable(record))
    response.attachment(`${name}-as-left.csv`).type('text/csv').send(text)
    return text
  })

  return routes
}

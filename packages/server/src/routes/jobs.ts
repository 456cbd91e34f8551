import { readChangeList } from '@calm/contract'
import { api, type FromFile } from '@calm/contract/api'
import { jobFileOf, JOB_FILE_LIMIT, readJobFile } from '@calm/contract/jobFile'
import { withParkedWaits } from '@calm/core/procedure'
import express, { Router, type Request } from 'express'
import { requireLead } from '../security'
import {
  addForced,
  addJob,
  applyChangeList,
  importJob,
  readFromFile,
  Refused,
  releaseForced,
  removeJob,
  restoreJob,
  sealedLog,
  takeOver,
  withHeld,
} from '../store'
import type { AppContext } from './context'
import { fileName } from './fileName'
import { jobSummaries } from './jobSummary'
import { serve } from './serve'

/** Jobs: begun, taken in, changed, taken out of sight. */
export function jobRoutes(app: AppContext): Router {
  const routes = Router()
  const { store } = app
  const asText = express.text({ type: () => true, limit: JOB_FILE_LIMIT })

  serve(routes, api.jobs, () => jobSummaries(store))

  serve(routes, api.beginJob, async ({ body, who }) => {
    const id = await store.write(who, (tx) => addJob(tx, body))
    return store.jobs.get(id)
  })

  serve(
    routes,
    api.importJob,
    async ({ request, who }) => {
      const reading = readJobFile(typeof request.body === 'string' ? request.body : '')
      if (!reading.ok) throw new Refused(422, reading.problems)
      const id = await store.write(who, (tx) =>
        importJob(tx, reading.job, withParkedWaits(reading.firstContact), reading),
      )
      return store.jobs.get(id)
    },
    asText,
  )

  serve(routes, api.job, ({ params }) => store.jobs.get(params.jobId))

  serve(routes, api.change, async ({ params, request, who }) => {
    const reading = readChangeList(request.body)
    if (!reading.ok) throw new Refused(400, reading.problems)
    const touches = (table: string) => reading.changes.some((change) => change.table === table)
    if (touches('network')) requireLead(request, 'networks')
    if (touches('acceptance')) requireLead(request, 'findings')
    await store.write(who, (tx) => applyChangeList(tx, params.jobId, reading.changes), request.get('x-page'))
    return undefined
  })

  const onlyLead = (request: Request) => requireLead(request, 'jobs')
  serve(routes, api.removeJob, async ({ params, request, who }) => {
    onlyLead(request)
    await store.write(who, (tx) => removeJob(tx, params.jobId))
    return undefined
  })
  serve(routes, api.restoreJob, async ({ params, request, who }) => {
    onlyLead(request)
    await store.write(who, (tx) => restoreJob(tx, params.jobId))
    return undefined
  })

  serve(routes, api.exportJob, async ({ params, response }) => {
    const own = await store.jobs.get(params.jobId)
    const job = await store.read((manager) => withHeld(manager, own))
    const exportedAt = new Date(app.clock()).toISOString()
    const sealed = await store.read((manager) => sealedLog(manager, job))
    const file = jobFileOf(job, exportedAt, await store.walks.get(job.id), sealed)
    response.attachment(`${fileName(job.name)}.job.json`).json(file)
    return job
  })

  const fromFile = async (jobId: string): Promise<FromFile | null> => {
    const { id } = await store.jobs.get(jobId)
    const came = await store.read((manager) => readFromFile(manager, id))
    if (!came) return null
    const { proofs: _proofs, ...told } = came
    return told
  }
  serve(routes, api.fromFile, ({ params }) => fromFile(params.jobId))
  serve(routes, api.takeOver, async ({ params, request, who }) => {
    requireLead(request, 'evidence')
    await store.write(who, (tx) => takeOver(tx, params.jobId))
    return fromFile(params.jobId)
  })

  serve(routes, api.addForced, async ({ params, body, who }) => ({
    id: await store.write(who, (tx) => addForced(tx, params.jobId, body)),
  }))
  serve(routes, api.releaseForced, async ({ params, body, who }) => {
    await store.write(who, (tx) => releaseForced(tx, params.id, body.version))
    return undefined
  })
  return routes
}

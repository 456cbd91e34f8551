import { api } from '@calm/contract/api'
import { readRunFile } from '@calm/contract/runFile'
import { comparePictures, readFieldList } from '@calm/core/procedure'
import express, { Router } from 'express'
import { keepsakes } from '../db'
import { laptopState } from '../laptop'
import { addFact, addRun, addTemporary, keep, notFound, putBack, Refused, removeRun } from '../store'
import type { AppContext } from './context'
import { latestPicture, takePicture } from './pictures'
import { serve } from './serve'

/** What first contact keeps: facts about settings, temporary things, runs of the job's own, documents, pictures. */
export function keptRoutes(app: AppContext): Router {
  const routes = Router()
  const { store } = app

  serve(routes, api.addFact, async ({ params, body, who }) => {
    await store.write(who, (tx) => addFact(tx, params.jobId, body))
    return undefined
  })

  serve(routes, api.addTemporary, async ({ params, body, who }) => ({
    id: await store.write(who, async (tx) => addTemporary(tx, (await tx.job(params.jobId)).id, body)),
  }))

  serve(routes, api.putBack, async ({ params, body, who }) => {
    await store.write(who, (tx) => putBack(tx, params.id, body.version))
    return undefined
  })

  serve(routes, api.addRun, async ({ params, body, who }) => ({
    id: await store.write(who, async (tx) => addRun(tx, (await tx.job(params.jobId)).id, body.facts)),
  }))

  serve(
    routes,
    api.importRuns,
    async ({ params, request, who }) => {
      const reading = readRunFile(typeof request.body === 'string' ? request.body : '')
      if (!reading.ok) throw new Refused(422, reading.problems)
      await store.write(who, async (tx) => {
        const { id } = await tx.job(params.jobId)
        for (const run of reading.runs) await addRun(tx, id, run)
      })
      return { count: reading.runs.length }
    },
    express.text({ type: () => true, limit: '1mb' }),
  )

  serve(routes, api.removeRun, async ({ params, body, who }) => {
    await store.write(who, (tx) => removeRun(tx, params.id, body.version))
    return undefined
  })

  serve(routes, api.keepsakes, async ({ params }) => {
    const { id: jobId } = await store.jobs.get(params.jobId)
    const rows = await store.read((manager) =>
      manager.find(keepsakes, { where: { jobId }, order: { at: 'DESC' }, take: 200 }),
    )
    return rows.map(({ content: _content, jobId: _jobId, ...head }) => head)
  })

  serve(routes, api.keepsake, async ({ params }) => {
    const { id: jobId } = await store.jobs.get(params.jobId)
    const row = await store.read((manager) => manager.findOne(keepsakes, { where: { id: params.id, jobId } }))
    if (!row) throw notFound('keepsake', params.id)
    const { jobId: _jobId, ...rest } = row
    return { ...rest, content: JSON.parse(row.content) as unknown }
  })

  serve(routes, api.keepLabel, async ({ params, body, who }) => {
    const job = await store.jobs.get(params.jobId)
    const device = job.devices.find(({ id }) => id === body.deviceId)
    if (!device) throw notFound('device', body.deviceId)
    const { deviceId, ...content } = body
    const title = `Label of ${device.tag}: ${content.codes.length} read`
    return { id: await store.write(who, (tx) => keep(tx, job.id, { deviceId, kind: 'label', title, content })) }
  })

  serve(routes, api.takePicture, async ({ params, body, who }) => {
    const job = await store.jobs.get(params.jobId)
    const laptop = await laptopState(job.mode, app.bench)
    const list = body.fieldList === undefined ? undefined : readFieldList(body.fieldList).devices
    const record = await store.walks.get(job.id)
    const picture = await takePicture(app.liveContext, job, record, laptop, body.notes, list)
    const { devices, values = [] } = picture
    const count = (answers: boolean | null) => devices.filter((each) => each.answers === answers).length
    const unseen = count(null) > 0 ? `, ${count(null)} not looked at` : ''
    const named = body.when === 'before' ? 'Before-picture' : 'Picture afterwards'
    const read = values.filter(({ value }) => value !== null).length
    const measured = values.length > 0 ? `, ${read} of ${values.length} values` : ''
    const title = `${named}: ${count(true)} answer, ${count(false)} silent${unseen}${measured}`
    await store.write(who, (tx) =>
      keep(tx, job.id, { deviceId: null, kind: `picture-${body.when}`, title, content: picture }),
    )
    const first = body.when === 'after' ? await latestPicture(store, job.id, 'before') : undefined
    return { picture, comparison: first ? comparePictures(first, picture) : null }
  })

  return routes
}

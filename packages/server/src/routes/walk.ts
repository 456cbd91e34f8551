import { api } from '@calm/contract/api'
import { Router } from 'express'
import { makeCheck, placeOn, walkNow, walkWithin } from '../firstContact'
import { noteWhatItSays, putWalk, refusedBecause, reopenStep, settleStep } from '../store'
import type { AppContext } from './context'
import { picturesOf } from './pictures'
import { serve } from './serve'

/** The walk of first contact: its order, its steps, waits and checks. */
export function walkRoutes(app: AppContext): Router {
  const routes = Router()
  const { store } = app

  serve(routes, api.walk, async ({ params }) => {
    await store.jobs.get(params.jobId)
    return store.walks.get(params.jobId)
  })

  serve(routes, api.putOrder, async ({ params, body, who }) => {
    await store.write(who, (tx) => putWalk(tx, params.jobId, body.version, { order: body.order }))
    return undefined
  })

  serve(routes, api.putSettings, async ({ params, body, who }) => {
    await store.write(who, (tx) => putWalk(tx, params.jobId, body.version, { settings: body.settings }))
    return undefined
  })

  serve(routes, api.settleStep, async ({ params, body, who }) => {
    await store.write(who, async (tx) => {
      const place = placeOn(params.jobId, await walkWithin(tx, params.jobId), body.stepKey)
      await settleStep(tx, place, body)
    })
    if (body.state === 'done') await app.waits.beginAfter(who, await store.jobs.get(params.jobId), body.stepKey)
    return undefined
  })

  serve(routes, api.settleStretch, async ({ params, body, who }) => {
    const { stepKeys, state, note } = body
    await store.write(who, async (tx) => {
      // Nothing in a stretch protects anybody, so no step of it opens or shuts another: the walk is looked at once.
      const walk = await walkWithin(tx, params.jobId)
      for (const stepKey of stepKeys) {
        const place = placeOn(params.jobId, walk, stepKey)
        const { step } = place.step
        if (state === 'done' && place.step.blocks)
          throw refusedBecause(
            `"${step.say}" protects ${step.protects ?? 'people'}: it is done by itself.`,
            'steps that protect nobody',
            'a step that does',
            'stepKeys',
          )
        await settleStep(tx, place, { state, note })
      }
    })
    return undefined
  })

  serve(routes, api.reopenStep, async ({ params, body, who }) => {
    await store.write(who, (tx) => reopenStep(tx, params.jobId, body.stepKey))
    return undefined
  })

  serve(routes, api.beginWait, async ({ params, body, who }) => {
    const job = await store.jobs.get(params.jobId)
    const { step } = placeOn(job.id, await walkNow(store, job), body.stepKey)
    if (step.seconds === 0 && step.step.kind !== 'wait')
      throw refusedBecause('This step waits for nothing.', 'a step that waits', step.step.kind, 'stepKey')
    return app.waits.begin(who, job, body.stepKey)
  })

  /** Makes the check of a step; what it finds settles the step, or says why not. */
  serve(routes, api.check, async ({ params, body, who }) => {
    const job = await store.jobs.get(params.jobId)
    const place = placeOn(job.id, await walkNow(store, job), body.stepKey)
    const { check, kind } = place.step.step
    if (!check) throw refusedBecause('This step checks nothing.', 'a step with a check', kind, 'stepKey')
    const device = job.devices.find((each) => each.id === place.step.deviceId)
    const { result, seen } = await makeCheck(
      {
        context: app.liveContext,
        job,
        record: place.record,
        stop: place.stop,
        device,
        laptop: place.step.laptop,
        pictures: () => picturesOf(store, job.id),
      },
      check,
    )
    if (result.verdict === 'passed')
      await store.write(who, async (tx) => {
        if (device && seen) await noteWhatItSays(tx, job.id, device, seen)
        await settleStep(tx, placeOn(job.id, await walkWithin(tx, job.id), body.stepKey), {
          state: 'done',
          note: result.say,
        })
      })
    if (result.verdict === 'passed') await app.waits.beginAfter(who, await store.jobs.get(params.jobId), body.stepKey)
    return result
  })

  return routes
}

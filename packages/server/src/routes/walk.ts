import { api } from '@calm/contract/api'
import { Router } from 'express'
import { deviceOf, type Job } from '@calm/core/job'
import { restsOf, stepKinds, type CheckId, type StepKind } from '@calm/core/procedure'
import { askOnPlan } from '../asking'
import { makeCheck, placeOn, walkNow, walkOfJob, walkWithin, type PlaceOnWalk } from '../firstContact'
import { noteWhatItSays, putWalk, refusedBecause, reopenStep, settleStep } from '../store'
import type { AppContext } from './context'
import { picturesOf } from './pictures'
import { serve } from './serve'

/** What may be ticked together: something is done, and nothing is seen, read or decided by it. */
const STRETCHED: readonly StepKind[] = ['prepare', 'do', 'set', 'turn']

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
        if (state === 'done' && !STRETCHED.includes(step.kind))
          throw refusedBecause(
            `"${step.say}" is looked at by itself: it is ${stepKinds[step.kind].toLowerCase()}, not something to tick.`,
            'steps that are done',
            'a step at which something is seen, read or decided',
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
    const { jobId } = params
    const about = (job: Job, place: PlaceOnWalk) => ({
      check: checkOf(place),
      device: deviceOf(job, place.step.deviceId ?? ''),
      devices: place.step.deviceIds.flatMap((id) => deviceOf(job, id) ?? []),
    })
    const result = await askOnPlan(store, {
      who,
      jobId,
      plan: ({ job, walk }) => {
        const { check, devices } = about(job, placeOn(jobId, walkOfJob(job, walk), body.stepKey))
        return JSON.stringify(restsOf(job, walk, check, devices))
      },
      ask: ({ job, walk }) => {
        const place = placeOn(jobId, walkOfJob(job, walk), body.stepKey)
        const { check, device } = about(job, place)
        const { stop, step } = place
        const around = { context: app.liveContext, now: app.clock(), pictures: () => picturesOf(store, jobId) }
        return makeCheck({ ...around, job, record: walk, stop, device, laptop: step.laptop }, check)
      },
      write: async (tx, { job, walk }, { result: found, seen }, witness) => {
        if (found.verdict !== 'passed') return found
        const { check, device, devices } = about(job, placeOn(jobId, walkOfJob(job, walk), body.stepKey))
        // What it rests on is what was compared, before what it says of itself goes into the line-up.
        const rests = restsOf(job, walk, check, devices)
        if (device && seen) await noteWhatItSays(tx, jobId, device, seen)
        const place = placeOn(jobId, await walkWithin(tx, jobId), body.stepKey)
        await settleStep(tx, place, { state: 'done', note: found.say, checked: { witness, rests } })
        return found
      },
    })
    if (result.verdict === 'passed') await app.waits.beginAfter(who, await store.jobs.get(jobId), body.stepKey)
    return result
  })

  return routes
}

/** @throws Refused where a step checks nothing */
function checkOf({ step }: PlaceOnWalk): CheckId {
  const { check, kind } = step.step
  if (!check) throw refusedBecause('This step checks nothing.', 'a step with a check', kind, 'stepKey')
  return check
}

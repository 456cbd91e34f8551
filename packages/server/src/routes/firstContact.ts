import { formatIpv4 } from '@calm/core/address'
import type { Device, Job } from '@calm/core/job'
import {
  nothingAnswers,
  pictureDifferences,
  portOf,
  presentOf,
  type LaptopState,
  type Picture,
} from '@calm/core/procedure'
import {
  benchLaptop,
  frontAct,
  newFact,
  newRun,
  newTemporary,
  orderPut,
  pictureAsk,
  probeAsk,
  settingsPut,
  stepNamed,
  stepSettling,
  stretchSettling,
  sweepAsk,
  unitsAsk,
} from '@calm/contract/walk'
import { readRunFile } from '@calm/contract/runFile'
import { foundText, versionOnly } from '@calm/contract'
import type { BenchLaptopView, FrontAct } from '@calm/contract/live'
import express, { Router, type Request } from 'express'
import type Joi from 'joi'
import { serialPorts } from '../console'
import { keepsakes, ownRuns } from '../db'
import { canSee, makeCheck, placeOf, portsOf, probe, requireInsideJob, unitsBehind, walkNow } from '../firstContact'
import { laptopState } from '../laptop'
import {
  addFact,
  addRun,
  addTemporary,
  keep,
  notFound,
  putBack,
  putWalk,
  readWalk,
  Refused,
  refusedBecause,
  removeRun,
  reopenStep,
  settleStep,
} from '../store'
import type { AppContext } from './context'
import { bodyOf, partOf } from './input'

/** First contact: the order, the walk, waits, looks at what is there, what is kept. */
export function firstContactRoutes(app: AppContext): Router {
  const routes = Router()
  const { store } = app
  const jobOf = (request: Request): Promise<Job> => app.jobs.get(partOf(request, 'jobId'))
  const manager = store.source.manager

  routes.get('/jobs/:jobId/walk', async (request, response) => {
    const job = await jobOf(request)
    response.json(await readWalk(manager, job.id))
  })

  routes.put('/jobs/:jobId/walk/order', async (request, response) => {
    const { version, order } = bodyOf(request, orderPut)
    const job = await jobOf(request)
    await store.write(request.who.name, (tx) => putWalk(tx, job.id, version, { order }))
    response.status(204).end()
  })

  routes.put('/jobs/:jobId/walk/settings', async (request, response) => {
    const { version, settings } = bodyOf(request, settingsPut)
    const job = await jobOf(request)
    await store.write(request.who.name, (tx) => putWalk(tx, job.id, version, { settings }))
    response.status(204).end()
  })

  routes.post('/jobs/:jobId/walk/steps', async (request, response) => {
    const said = bodyOf(request, stepSettling)
    const job = await jobOf(request)
    await store.write(request.who.name, async (tx) =>
      settleStep(tx, await placeOf(tx.manager, job, said.stepKey), said),
    )
    response.status(204).end()
  })

  routes.post('/jobs/:jobId/walk/stretch', async (request, response) => {
    const { stepKeys, state, note } = bodyOf(request, stretchSettling)
    const job = await jobOf(request)
    await store.write(request.who.name, async (tx) => {
      for (const stepKey of stepKeys) {
        const place = await placeOf(tx.manager, job, stepKey)
        if (state === 'done' && place.step.blocks)
          throw refusedBecause(
            `"${place.step.step.say}" protects ${place.step.step.protects ?? 'people'}: it is done by itself.`,
            'steps that protect nobody',
            'a step that does',
            'stepKeys',
          )
        await settleStep(tx, place, { state, note })
      }
    })
    response.status(204).end()
  })

  routes.post('/jobs/:jobId/walk/reopen', async (request, response) => {
    const { stepKey } = bodyOf(request, stepNamed)
    const job = await jobOf(request)
    await store.write(request.who.name, (tx) => reopenStep(tx, job.id, stepKey))
    response.status(204).end()
  })

  routes.post('/jobs/:jobId/walk/wait', async (request, response) => {
    const { stepKey } = bodyOf(request, stepNamed)
    const job = await jobOf(request)
    const { step } = await placeOf(manager, job, stepKey)
    if (step.seconds === 0 && step.step.kind !== 'wait')
      throw refusedBecause('This step waits for nothing.', 'a step that waits', step.step.kind, 'stepKey')
    const wait = await app.waits.begin(request.who.name, job, stepKey)
    response.status(202).json(wait)
  })

  /** Makes the check of a step; what it finds settles the step, or says why not. */
  routes.post('/jobs/:jobId/walk/check', async (request, response) => {
    const { stepKey } = bodyOf(request, stepNamed)
    const job = await jobOf(request)
    const place = await placeOf(manager, job, stepKey)
    const { check } = place.step.step
    if (!check)
      throw refusedBecause('This step checks nothing.', 'a step with a check', place.step.step.kind, 'stepKey')
    const device = job.devices.find((each) => each.id === place.step.deviceId)
    const result = await makeCheck(
      {
        context: app.liveContext,
        job,
        record: place.record,
        stop: place.stop,
        device,
        pictures: () => picturesOf(job.id),
      },
      check,
    )
    if (result.ok)
      await store.write(request.who.name, async (tx) =>
        settleStep(tx, await placeOf(tx.manager, job, stepKey), { state: 'done', note: result.say }),
      )
    response.json(result)
  })

  routes.get('/jobs/:jobId/laptop', async (request, response) => {
    const job = await jobOf(request)
    response.json(await laptopState(job.mode, app.bench))
  })

  /** Why nothing answers, walked as far as the server can see. */
  routes.post('/jobs/:jobId/nothing-answers', async (request, response) => {
    const { address, port, deviceId } = bodyOf(request, probeAsk)
    const job = await jobOf(request)
    const device = job.devices.find((each) => each.id === deviceId)
    requireInsideJob(job, await readWalk(manager, job.id), address)
    const laptop = await laptopState(job.mode, app.bench)
    const seen = await probe(app.liveContext, job.mode, address, [...new Set([port, 443, ...portsOf(device)])])
    const at = (wanted: number) => seen.ports.find((each) => each.port === wanted)?.connection ?? 'silent'
    response.json(
      nothingAnswers(laptop, {
        address,
        port,
        connection: at(port),
        securePort: at(443),
        identity: seen.identities.length > 0 ? seen.identities.join(' and ') : null,
        expectedIdentity: device?.tag ?? '',
      }),
    )
  })

  routes.post('/jobs/:jobId/probe', async (request, response) => {
    const { address, port, deviceId } = bodyOf(request, probeAsk)
    const job = await jobOf(request)
    const device = job.devices.find((each) => each.id === deviceId)
    requireInsideJob(job, await readWalk(manager, job.id), address)
    response.json(await probe(app.liveContext, job.mode, address, [...new Set([port, ...portsOf(device)])]))
  })

  routes.post('/jobs/:jobId/sweep', async (request, response) => {
    const { cidr } = bodyOf(request, sweepAsk)
    const job = await jobOf(request)
    const record = await readWalk(manager, job.id)
    const who = request.who.name
    const laptop = await laptopState(job.mode, app.bench)
    const sweep = app.sweeps.begin(job, record, laptop, cidr, (done) => {
      const title = `Search of ${cidr}: ${done.lines.filter((line) => line.answer).length} answered`
      void store
        .write(who, (tx) => keep(tx, job.id, { deviceId: null, kind: 'sweep', title, content: done }))
        .catch(() => undefined)
    })
    response.status(202).json(sweep)
  })

  routes.get('/jobs/:jobId/sweep', async (request, response) => {
    const job = await jobOf(request)
    response.json(app.sweeps.of(job.id) ?? null)
  })

  routes.post('/jobs/:jobId/units', async (request, response) => {
    const { deviceId, first, last } = bodyOf(request, unitsAsk)
    const job = await jobOf(request)
    const port = portOf(job.devices.find((each) => each.id === deviceId) ?? fail('device', deviceId))
    if (!port?.address || last < first)
      throw refusedBecause(
        'There is nothing to ask.',
        'a gateway with an address, first not above last',
        `${first} to ${last}`,
      )
    requireInsideJob(job, await readWalk(manager, job.id), port.address)
    // Who leaves the page does not wait for 247 silent units.
    const left = new AbortController()
    response.on('close', () => left.abort())
    const place = { address: port.address, port: port.tcpPort }
    const found = await unitsBehind(app.liveContext, job, place, { first, last }, left.signal)
    if (!left.signal.aborted) response.json(found)
  })

  routes.post('/jobs/:jobId/facts', async (request, response) => {
    const fact = bodyOf(request, newFact)
    const job = await jobOf(request)
    await store.write(request.who.name, (tx) => addFact(tx, job.id, fact))
    response.status(204).end()
  })

  routes.post('/jobs/:jobId/temporary', async (request, response) => {
    const thing = bodyOf(request, newTemporary)
    const job = await jobOf(request)
    const id = await store.write(request.who.name, (tx) => addTemporary(tx, job.id, thing))
    response.status(201).json({ id })
  })

  routes.post('/temporary/:id/back', async (request, response) => {
    const { version } = bodyOf(request, versionOnly)
    await store.write(request.who.name, (tx) => putBack(tx, partOf(request, 'id'), version))
    response.status(204).end()
  })

  routes.post('/jobs/:jobId/runs', async (request, response) => {
    const { facts } = bodyOf(request, newRun)
    const job = await jobOf(request)
    const id = await store.write(request.who.name, (tx) => addRun(tx, job.id, facts))
    response.status(201).json({ id })
  })

  routes.post(
    '/jobs/:jobId/runs/import',
    express.text({ type: () => true, limit: '1mb' }),
    async (request, response) => {
      const reading = readRunFile(typeof request.body === 'string' ? request.body : '')
      if (!reading.ok) throw new Refused(422, reading.problems)
      const job = await jobOf(request)
      await store.write(request.who.name, async (tx) => {
        for (const run of reading.runs) await addRun(tx, job.id, run)
      })
      response.status(201).json({ count: reading.runs.length })
    },
  )

  routes.delete('/runs/:id', async (request, response) => {
    const { version } = bodyOf(request, versionOnly)
    if (!(await manager.existsBy(ownRuns, { id: partOf(request, 'id') }))) fail('run', partOf(request, 'id'))
    await store.write(request.who.name, (tx) => removeRun(tx, partOf(request, 'id'), version))
    response.status(204).end()
  })

  routes.get('/jobs/:jobId/keepsakes', async (request, response) => {
    const job = await jobOf(request)
    const rows = await manager.find(keepsakes, { where: { jobId: job.id }, order: { at: 'DESC' }, take: 200 })
    response.json(rows.map(({ content: _content, jobId: _jobId, ...head }) => head))
  })

  routes.get('/jobs/:jobId/keepsakes/:id', async (request, response) => {
    const job = await jobOf(request)
    const row = await manager.findOne(keepsakes, { where: { id: partOf(request, 'id'), jobId: job.id } })
    if (!row) throw notFound('keepsake', partOf(request, 'id'))
    response.json({ ...row, content: JSON.parse(row.content) })
  })

  /** A picture of what runs: who answers, what it says it is, what somebody wrote down. */
  routes.post('/jobs/:jobId/pictures', async (request, response) => {
    const { when, notes } = bodyOf(request, pictureAsk)
    const job = await jobOf(request)
    const { record } = await walkNow(manager, job)
    const laptop = await laptopState(job.mode, app.bench)
    const devices = await Promise.all(
      job.devices.flatMap((device) => {
        const present = presentOf(job, record, device)
        return portOf(device) && present ? [lookAt(job, device, formatIpv4(present.address), laptop)] : []
      }),
    )
    const picture: Picture = { at: app.clock(), devices, notes }
    const title = `${when === 'before' ? 'Before-picture' : 'Picture afterwards'}: ${devices.filter((each) => each.answers).length} of ${devices.length} answer`
    await store.write(request.who.name, (tx) =>
      keep(tx, job.id, { deviceId: null, kind: `picture-${when}`, title, content: picture }),
    )
    const first = when === 'after' ? await latestPicture(job.id, 'before') : undefined
    response.status(201).json({ picture, differences: first ? pictureDifferences(first, picture) : [] })
  })

  const lookAt = async (job: Job, device: Device, address: string, laptop: LaptopState) => {
    if (!canSee(laptop, address)) return { tag: device.tag, answers: null, identity: '' }
    const seen = await probe(app.liveContext, job.mode, address, portsOf(device))
    return { tag: device.tag, answers: seen.answers, identity: seen.identities.join(' and ') }
  }

  const latestPicture = async (jobId: string, when: 'before' | 'after'): Promise<Picture | undefined> => {
    const row = await manager.findOne(keepsakes, { where: { jobId, kind: `picture-${when}` }, order: { at: 'DESC' } })
    return row ? (JSON.parse(row.content) as Picture) : undefined
  }

  const picturesOf = async (jobId: string) => {
    const before = await latestPicture(jobId, 'before')
    const after = await latestPicture(jobId, 'after')
    const differences = before && after && after.at > before.at ? pictureDifferences(before, after) : undefined
    return {
      before: before !== undefined,
      lost: differences?.filter((each) => each.kind === 'new-fault').map((each) => each.tag),
    }
  }

  routes.get('/serial-ports', async (_request, response) => {
    response.json(await serialPorts())
  })

  routes.get('/bench-fronts', (_request, response) => {
    response.json({ fronts: app.bench?.fronts() ?? [], laptop: app.bench?.laptop ?? null })
  })

  routes.post('/bench-fronts/:tag', async (request, response) => {
    const { error, value } = frontAct.validate(request.body ?? {}, { convert: false })
    if (error)
      throw refusedBecause('That cannot be done at a front.', 'power, plug, press or turn', foundText(request.body))
    if (!(await app.bench?.act(partOf(request, 'tag'), value as FrontAct)))
      throw notFound('front', partOf(request, 'tag'))
    app.log.info({ tag: partOf(request, 'tag'), act: value }, 'bench front')
    response.json({ fronts: app.bench?.fronts() ?? [], laptop: app.bench?.laptop ?? null })
  })

  routes.put('/bench-laptop', (request, response) => {
    const view = bodyOf(request, benchLaptop as Joi.ObjectSchema<BenchLaptopView>)
    const tags = app.bench?.fronts().map((front) => front.tag) ?? []
    if (view.cable !== 'switch' && !tags.includes(view.cable))
      throw refusedBecause(
        'The cable goes to the switch or to a stand-in.',
        `switch, ${tags.join(', ')}`,
        view.cable,
        'cable',
      )
    app.bench?.setLaptop(view)
    response.json({ fronts: app.bench?.fronts() ?? [], laptop: app.bench?.laptop ?? null })
  })

  routes.post('/bench-deliver', async (_request, response) => {
    await app.bench?.deliver()
    response.json({ fronts: app.bench?.fronts() ?? [], laptop: app.bench?.laptop ?? null })
  })

  return routes
}

function fail(what: string, id: string): never {
  throw notFound(what, id)
}

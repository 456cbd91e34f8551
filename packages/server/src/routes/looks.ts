import { api } from '@calm/contract/api'
import type { Job } from '@calm/core/job'
import { nothingAnswers, portOf } from '@calm/core/procedure'
import { Router } from 'express'
import { portsOf, probe, requireInsideJob, unitsBehind } from '../firstContact'
import { laptopState } from '../laptop'
import { keep, notFound, refusedBecause } from '../store'
import type { AppContext } from './context'
import { serve } from './serve'

/** Looks at what is there: the laptop, one address, a network, the units behind a gateway. */
export function lookRoutes(app: AppContext): Router {
  const routes = Router()
  const { store, bench, liveContext } = app

  serve(routes, api.laptopState, async ({ params }) => {
    const job = await store.jobs.get(params.jobId)
    return laptopState(job.mode, bench)
  })

  /** The job, once it is sure that the address belongs to it, and the ports at which a device is looked at. */
  const askedOf = async (jobId: string, ask: { address: string; port: number; deviceId: string | null }) => {
    const job = await store.jobs.get(jobId)
    requireInsideJob(job, await store.walks.get(jobId), ask.address)
    const device = job.devices.find((each) => each.id === ask.deviceId)
    return { job, device, ports: portsOf(device) }
  }

  /** Why nothing answers, walked as far as the server can see. */
  serve(routes, api.nothingAnswers, async ({ params, body }) => {
    const { address, port } = body
    const { job, device, ports } = await askedOf(params.jobId, body)
    const laptop = await laptopState(job.mode, bench)
    const seen = await probe(liveContext, job.mode, address, [...new Set([port, 443, ...ports])])
    const at = (wanted: number) => seen.ports.find((each) => each.port === wanted)?.connection ?? 'silent'
    return nothingAnswers(laptop, {
      address,
      port,
      connection: at(port),
      securePort: at(443),
      identity: seen.identities.length > 0 ? seen.identities.join(' and ') : null,
      expectedIdentity: device?.tag ?? '',
    })
  })

  serve(routes, api.probe, async ({ params, body }) => {
    const { job, ports } = await askedOf(params.jobId, body)
    return probe(liveContext, job.mode, body.address, [...new Set([body.port, ...ports])])
  })

  serve(routes, api.beginSweep, async ({ params, body, who }) => {
    const job = await store.jobs.get(params.jobId)
    const record = await store.walks.get(job.id)
    const laptop = await laptopState(job.mode, bench)
    return app.sweeps.begin(job, record, laptop, body.cidr, (done) => {
      const title = `Search of ${body.cidr}: ${done.lines.filter((line) => line.answer).length} answered`
      void store
        .write(who, (tx) => keep(tx, job.id, { deviceId: null, kind: 'sweep', title, content: done }))
        .catch(() => undefined)
    })
  })

  serve(routes, api.sweep, async ({ params }) => {
    await store.jobs.get(params.jobId)
    return app.sweeps.of(params.jobId) ?? null
  })

  serve(routes, api.stopSweep, async ({ params }) => {
    await store.jobs.get(params.jobId)
    app.sweeps.stop(params.jobId)
    return undefined
  })

  /** Whoever shows itself, whatever address it has: nobody outside this wire is asked, so no network of the job is needed. */
  serve(routes, api.beginListening, async ({ params, who }) => {
    const job = await store.jobs.get(params.jobId)
    return app.listenings.begin(job, ({ seconds, rounds, sent, hits }) => {
      const say = `Listened ${seconds} s, asked ${rounds} times with ${sent} datagrams: ${hits.length} heard`
      void store.write(who, (tx) => tx.log(job.id, say, { hits })).catch(() => undefined)
    })
  })

  serve(routes, api.listening, async ({ params }) => {
    await store.jobs.get(params.jobId)
    return app.listenings.of(params.jobId) ?? null
  })

  serve(routes, api.stopListening, async ({ params }) => {
    await store.jobs.get(params.jobId)
    app.listenings.stop(params.jobId)
    return undefined
  })

  serve(routes, api.units, async ({ params, body, response }) => {
    const { deviceId, first, last } = body
    const job = await store.jobs.get(params.jobId)
    const port = portOf(gatewayOf(job, deviceId))
    if (!port?.address || last < first)
      throw refusedBecause(
        'There is nothing to ask.',
        'a gateway with an address, first not above last',
        `${first} to ${last}`,
      )
    requireInsideJob(job, await store.walks.get(job.id), port.address)
    // Who leaves the page does not wait for 247 silent units.
    const left = new AbortController()
    response.on('close', () => left.abort())
    const place = { address: port.address, port: port.tcpPort }
    return unitsBehind(liveContext, job, place, { first, last }, left.signal)
  })

  return routes
}

function gatewayOf(job: Job, deviceId: string) {
  const device = job.devices.find((each) => each.id === deviceId)
  if (!device) throw notFound('device', deviceId)
  return device
}

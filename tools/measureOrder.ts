import { blankWalk, bringUpJobOf, planWalk, walkOf, type WalkRecord } from '@calm/core/procedure'
import { ipv4, prefixLength } from '@calm/core/address'
import type { Job } from '@calm/core/job'
import { bringUp, type BringUpJob } from '@calm/core/sequence'
import { pino } from 'pino'
import { middle, type Line } from './measured'
import { crowdedBringUp, largeBringUp, mixedBringUp } from '../packages/core/src/sequence/fixtures/jobs'
import { rehearsal } from '../packages/server/src/demo'
import { start } from '../packages/server/src/start'

const minutes = (seconds: number) => `${Math.floor(seconds / 60)}:${String(Math.round(seconds % 60)).padStart(2, '0')}`

/** The order of bring-up: how long it takes, what it costs against list order and against the bound. */
export function orders(): readonly Line[] {
  const of = (name: string, job: BringUpJob, runs: number, target: string): readonly Line[] => {
    const time = middle(runs, () => bringUp(job))
    const answer = bringUp(job)
    if (answer.kind !== 'order') return [{ work: name, measured: answer.kind, target }]
    const { cost, bound, listOrder, proven } = answer
    const list = listOrder.kind === 'cost' ? minutes(listOrder.cost.seconds) : 'stuck'
    return [
      { work: `bring-up order, ${name}`, measured: `${time.toFixed(0)} ms`, target },
      {
        work: '  planned, in list order, bound (min:s)',
        measured: `${minutes(cost.seconds)}, ${list}, ${minutes(bound.seconds)}${proven ? ' proven' : ''}`,
        target: '-',
      },
      {
        work: '  laptop changes, power actions, settings (bounds)',
        measured: `${cost.laptopChanges} (${bound.laptopChanges}), ${cost.powerActions} (${bound.powerActions}), ${cost.settings} (${bound.settings})`,
        target: '-',
      },
    ]
  }
  return [
    ...of('40 devices, 12 shared defaults', largeBringUp(40, 12), 5, 'under 200 ms'),
    ...of('100 devices, 12 shared defaults', largeBringUp(100, 12), 3, '-'),
    ...wholePlans(),
    ...schedules(),
  ]
}

/** Order and schedule together within their time, of jobs from easy to crowded. */
function wholePlans(): readonly Line[] {
  const jobs: readonly (readonly [string, BringUpJob, string])[] = [
    ['40 devices', largeBringUp(40, 12), 'under 0.2 s'],
    ['100 devices', largeBringUp(100, 12), 'under 1 s'],
    ['400 devices', largeBringUp(400, 20), 'under 5 s'],
    ['40 devices on shared breakers', mixedBringUp(40, 1), 'under 0.2 s'],
    ['100 devices on shared breakers', mixedBringUp(100, 4), 'under 1 s'],
    ['400 devices on shared breakers', mixedBringUp(400, 6), 'under 5 s'],
    ['30 devices of 6 kinds on three breakers', crowdedBringUp(30, 6, 3), 'under 0.2 s'],
  ]
  return jobs.flatMap(([name, job, target]) => {
    const time = middle(3, () => planWalk(job, [], [], 1))
    const plan = planWalk(job, [], [], 1)
    const work = `order and schedule, ${name}`
    const measured = `${time.toFixed(0)} ms`
    if (!('answer' in plan)) return [{ work, measured: `${measured}, none found`, target }]
    const { cost, bound, proven } = plan.answer
    return [
      { work, measured, target },
      {
        work: '  hands on, bound; finished, bound (min:s)',
        measured: `${minutes(cost.seconds)}, ${minutes(bound.seconds)}${proven ? ' proven' : ''}; ${minutes(plan.schedule.finish)}, ${minutes(plan.schedule.bound)}`,
        target: '-',
      },
    ]
  })
}

function schedules(): readonly Line[] {
  const record: WalkRecord = {
    ...blankWalk,
    settings: { ...blankWalk.settings, groups: { Q3: { live: false } } },
  }
  const given = bringUpJobOf(rehearsal(), record, [{ address: ipv4('10.20.40.5'), prefix: prefixLength(24) }])
  return ([1, 2] as const).flatMap((people) => {
    const time = middle(3, () => planWalk(given, [], [], people))
    const plan = planWalk(given, [], [], people)
    if (!('answer' in plan)) return []
    const list = plan.sequential
    const saved = list === undefined ? '-' : `${list - plan.schedule.finish} s`
    return [
      {
        work: `order and schedule of the rehearsal, ${people} at work`,
        measured: `${time.toFixed(0)} ms`,
        target: '-',
      },
      {
        work: '  finished, list order with every wait sat out, bound (min:s), saved',
        measured: `${minutes(plan.schedule.finish)}, ${list === undefined ? 'stuck' : minutes(list)}, ${minutes(plan.schedule.bound)}, ${saved}`,
        target: '-',
      },
    ]
  })
}

/** A search of a /24 on loopback, and how soon a stand-in's return rings. */
export async function firstContact(): Promise<readonly Line[]> {
  const running = await start({
    dataDir: ':memory:',
    port: 0,
    host: undefined,
    demo: 'small',
    benchPort: 0,
    webRoot: undefined,
    log: pino({ level: 'silent' }),
  })
  const call = async <T>(method: string, path: string, body?: unknown): Promise<T> => {
    const response = await fetch(`${running.url}api${path}`, {
      method,
      ...(body === undefined ? {} : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
    })
    const text = await response.text()
    if (!response.ok) throw new Error(`${path}: ${text}`)
    return (text === '' ? undefined : JSON.parse(text)) as T
  }
  const pause = (milliseconds: number) => new Promise((done) => setTimeout(done, milliseconds))
  try {
    const jobs = await call<readonly Job[]>('GET', '/jobs')
    const id = jobs.find((job) => job.name.includes('rehearsal'))?.id ?? ''
    await call('POST', `/jobs/${id}/sweep`, { cidr: '10.20.40.0/24' })
    let sweep = { done: false, milliseconds: 0, packetsPerSecond: 0 }
    while (!sweep.done) {
      await pause(50)
      sweep = await call('GET', `/jobs/${id}/sweep`)
    }
    const rings: number[] = []
    for (let round = 0; round < 5; round += 1) rings.push(await ringDelay(id, call, pause))
    rings.sort((a, b) => a - b)
    return [
      {
        work: 'search of a /24 on loopback, two ports each',
        measured: `${(sweep.milliseconds / 1000).toFixed(1)} s, ${sweep.packetsPerSecond}/s`,
        target: 'at most 250 connections/s',
      },
      {
        work: 'from a stand-in’s return to the ring, median of 5',
        measured: `${((rings[2] ?? NaN) / 1000).toFixed(2)} s`,
        target: '-',
      },
    ]
  } finally {
    await running.stop()
  }
}

type Call = <T>(method: string, path: string, body?: unknown) => Promise<T>

/** Puts the meter head on while somebody waits for it; the time from its first answer to the settled step. */
async function ringDelay(id: string, call: Call, pause: (milliseconds: number) => Promise<unknown>): Promise<number> {
  const laptop = { addresses: [{ address: '10.20.40.5', prefix: 24 }], cable: 'switch' }
  await call('PUT', '/bench-laptop', { ...laptop, speed: 1 })
  const job = await call<Job>('GET', `/jobs/${id}`)
  const record = await call<WalkRecord>('GET', `/jobs/${id}/walk`)
  const head = job.devices.find((device) => device.tag === 'MH-510')
  if (record.order.length === 0) {
    const order = [{ kind: 'group-on', groupId: 'Q3' }]
    await call('PUT', `/jobs/${id}/walk/order`, { version: record.version, order })
  }
  const its = await call<WalkRecord>('GET', `/jobs/${id}/walk`)
  const steps = walkOf(job, its, its.order, bringUpJobOf(job, its, [])).flatMap((stop) => stop.steps)
  const key = (step: string) =>
    steps.find(({ step: { id: of }, deviceIds }) => of === step && deviceIds.includes(head?.id ?? ''))?.key ?? ''
  for (const step of record.steps) await call('POST', `/jobs/${id}/walk/reopen`, { stepKey: step.stepKey })
  for (const step of ['isolate', 'clear'])
    await call('POST', `/jobs/${id}/walk/steps`, { stepKey: key(step), state: 'done', note: '', seen: 0 })
  await call('POST', '/bench-fronts/MH-510', { act: 'power', on: false })
  await call('POST', `/jobs/${id}/walk/wait`, { stepKey: key('starts') })
  await pause(700)
  await call('POST', '/bench-fronts/MH-510', { act: 'power', on: true })
  // It has started when this is set: the bench looks every 100 ms.
  await call('PUT', '/bench-laptop', { ...laptop, speed: 100 })
  await pause(200)
  const back = performance.now()
  for (;;) {
    const now = await call<WalkRecord>('GET', `/jobs/${id}/walk`)
    if (now.steps.some((step) => step.stepKey === key('starts') && step.state === 'done'))
      return performance.now() - back
    await pause(20)
  }
}

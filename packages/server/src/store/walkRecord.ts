import { settingOf, type Job } from '@calm/core/job'
import {
  blankWalk,
  openRuns,
  placeOf,
  runFits,
  runFitsNow,
  runsOf,
  type OrderSettings,
  type WalkRecord,
} from '@calm/core/procedure'
import type { BringUpAction } from '@calm/core/sequence'
import { IsNull, type EntityManager } from 'typeorm'
import { facts, ownRuns, temporaries, walks, walkSteps } from '../db'
import { notFound, Refused, refusedBecause } from './refusals'
import type { Tx } from './store'

const jsonOrNull = (text: string | null): unknown => (text === null ? null : JSON.parse(text))

/** Reads what first contact keeps of a job; a blank one where nothing was begun. */
export async function readWalk(manager: EntityManager, jobId: string): Promise<WalkRecord> {
  const row = await manager.findOne(walks, { where: { jobId } })
  const of = { where: { jobId } }
  const stepRows = await manager.find(walkSteps, { ...of, order: { at: 'ASC' } })
  const factRows = await manager.find(facts, { ...of, order: { at: 'ASC' } })
  const temporaryRows = await manager.find(temporaries, { ...of, order: { at: 'ASC' } })
  const runRows = await manager.find(ownRuns, { where: { jobId, removedAt: IsNull() }, order: { id: 'ASC' } })
  const without = <T extends { jobId: string }>({ jobId: _jobId, ...rest }: T) => rest
  return {
    version: row?.version ?? 1,
    settings: row ? { ...blankWalk.settings, ...JSON.parse(row.settings) } : blankWalk.settings,
    order: row ? JSON.parse(row.order) : [],
    steps: stepRows.map((step) => ({ ...without(step), wait: jsonOrNull(step.wait), rests: jsonOrNull(step.rests) })),
    facts: factRows.map(without),
    temporary: temporaryRows.map(without),
    runs: runRows.map(({ id, version, facts: text }) => ({ id, version, facts: JSON.parse(text) })),
  } as WalkRecord
}

/** Saves the order or the settings; refused where somebody saved meanwhile. */
export async function putWalk(
  tx: Tx,
  jobId: string,
  version: number,
  change: { readonly order?: readonly BringUpAction[]; readonly settings?: OrderSettings },
): Promise<void> {
  const job = await tx.job(jobId)
  const now = await readWalk(tx.manager, jobId)
  if (now.version !== version)
    throw new Refused(
      409,
      [
        {
          what: 'Somebody else changed the order meanwhile.',
          where: 'version',
          expected: String(now.version),
          found: String(version),
        },
      ],
      now,
    )
  if (change.settings) requireFittingRuns(job, now, change.settings)
  const begun = change.settings ? runsBegun(job, now, change.settings) : []
  await tx.manager.save(walks, {
    jobId,
    settings: JSON.stringify(change.settings ?? now.settings),
    order: JSON.stringify(change.order ?? now.order),
    version: version + 1,
  })
  await tx.log(
    jobId,
    change.order ? `Order of bring-up: ${change.order.length} actions` : 'Settings of the order changed',
    change.settings ?? {},
  )
  for (const said of begun) await tx.log(jobId, said, {})
}

/** What is begun beside the order, and what is given up, in words. @throws Refused where it fits nobody */
function runsBegun(job: Job, record: WalkRecord, settings: OrderSettings): readonly string[] {
  const words = ({ deviceId, runId }: OrderSettings['onDemand'][number]) => {
    const device = job.devices.find((each) => each.id === deviceId)
    const run = runsOf(record.runs).find((each) => each.id === runId)
    return { device, run, say: `${run?.name ?? runId}: ${device?.tag ?? 'a device that is gone'}` }
  }
  const isIn = (list: OrderSettings['onDemand'], id: string) => list.some((each) => each.id === id)
  const fresh = settings.onDemand.filter(({ id }) => !isIn(record.settings.onDemand, id))
  for (const each of fresh) {
    const { device, run } = words(each)
    if (!device) throw notFound('device', each.deviceId)
    if (!run) throw refusedBecause('There is no such run.', 'the id of a run', each.runId, 'settings.onDemand')
    if (!runFitsNow(run, device.kind))
      throw refusedBecause(
        `"${run.name}" cannot be begun for ${device.tag}.`,
        run.onDemand === undefined
          ? 'a run that can be begun at any time'
          : `a device of kind ${run.kinds.join(' or ')}`,
        device.kind,
        'settings.onDemand',
      )
    const isTwice = fresh.some((other) => other !== each && other.deviceId === each.deviceId)
    if (isTwice || openRuns(job, record).some((open) => open.device.id === device.id))
      throw refusedBecause(
        `Another run is in hand for ${device.tag}.`,
        'that one finished or given up first',
        'two at once',
        'settings.onDemand',
      )
  }
  return [
    ...fresh.map((each) => `Begun beside the order: ${words(each).say}`),
    ...record.settings.onDemand
      .filter(({ id }) => !isIn(settings.onDemand, id))
      .map((each) => `Given up: ${words(each).say}`),
  ]
}

/** A run is for a kind of device, or for a way of setting; for another it would leave out what matters. */
function requireFittingRuns(job: Job, record: WalkRecord, settings: OrderSettings): void {
  for (const [deviceId, runId] of Object.entries(settings.runs)) {
    if (record.settings.runs[deviceId] === runId) continue
    const device = job.devices.find((each) => each.id === deviceId)
    const run = runsOf(record.runs).find((each) => each.id === runId)
    if (!device) throw notFound('device', deviceId)
    if (!run) throw refusedBecause('There is no such run.', 'the id of a run', runId, 'settings.runs')
    if (!runFits(run, device.kind, settingOf(job, device).way, placeOf(job, device)))
      throw refusedBecause(
        `"${run.name}" is not for ${device.tag}.`,
        run.kinds.length > 0
          ? `a device of kind ${run.kinds.join(' or ')}`
          : `a device set by ${run.ways.join(' or ')}`,
        device.kind,
        'settings.runs',
      )
  }
}

/** Writes a whole walk of a new job. */
export async function writeNewWalk(tx: Tx, jobId: string, walk: WalkRecord): Promise<void> {
  const { settings, order, version } = walk
  await tx.manager.insert(walks, { jobId, settings: JSON.stringify(settings), order: JSON.stringify(order), version })
  for (const step of walk.steps)
    await tx.manager.insert(walkSteps, {
      ...step,
      jobId,
      wait: step.wait && JSON.stringify(step.wait),
      rests: step.rests && JSON.stringify(step.rests),
    })
  for (const fact of walk.facts) await tx.manager.insert(facts, { ...fact, jobId })
  for (const thing of walk.temporary) await tx.manager.insert(temporaries, { ...thing, jobId })
  for (const run of walk.runs)
    await tx.manager.insert(ownRuns, {
      id: run.id,
      jobId,
      facts: JSON.stringify(run.facts),
      version: run.version,
      removedAt: null,
    })
}

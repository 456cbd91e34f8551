import { randomUUID } from 'node:crypto'
import type { NewFact, NewTemporary, StepSettling } from '@calm/contract/walk'
import { settingOf, type Job } from '@calm/core/job'
import {
  blankWalk,
  consequencesOf,
  heldBackBy,
  LEAD_SETTING,
  leadOut,
  refusedNote,
  runFits,
  runsOf,
  type OrderSettings,
  type RunFacts,
  type Stop,
  type WaitRecord,
  type WalkRecord,
  type WalkStep,
} from '@calm/core/procedure'
import type { BringUpAction } from '@calm/core/sequence'
import { IsNull, type EntityManager } from 'typeorm'
import { devices, facts, keepsakes, ownRuns, temporaries, walks, walkSteps, type WalkStepRow } from '../db'
import { applyChangeList } from './lineUp'
import { readJob } from './readJob'
import { addEvidence, type EvidenceContent } from './record'
import { notFound, Refused, refusedBecause } from './refusals'
import type { Tx } from './store'

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
    steps: stepRows.map((step) => ({ ...without(step), wait: step.wait === null ? null : JSON.parse(step.wait) })),
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
  if (change.settings) requireFittingRuns(await readJob(tx.manager, jobId), now, change.settings)
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
}

/** A run is for a kind of device, or for a way of setting; for another it would leave out what matters. */
function requireFittingRuns(job: Job, record: WalkRecord, settings: OrderSettings): void {
  for (const [deviceId, runId] of Object.entries(settings.runs)) {
    if (record.settings.runs[deviceId] === runId) continue
    const device = job.devices.find((each) => each.id === deviceId)
    const run = runsOf(record.runs).find((each) => each.id === runId)
    if (!device) throw notFound('device', deviceId)
    if (!run) throw refusedBecause('There is no such run.', 'the id of a run', runId, 'settings.runs')
    if (!runFits(run, device.kind, settingOf(job, device).way))
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

/** Where a step is, in the walk as it is now. */
export interface StepPlace {
  readonly job: Job
  readonly stop: Stop
  readonly step: WalkStep
}

/** What a page or the watcher says of a step. */
type Said = Pick<StepSettling, 'state' | 'note'> & {
  readonly seen?: number
  /** A wait that ends by itself: what had to come before it was asked when it began. */
  readonly rang?: boolean
}

/** Settles one step: its record, the facts that follow, what goes into the line-up, what goes into the ledger. */
export async function settleStep(tx: Tx, { job, stop, step }: StepPlace, said: Said): Promise<void> {
  const row = await tx.manager.findOne(walkSteps, { where: { jobId: job.id, stepKey: step.key } })
  requireSeen(row, step, said)
  if (said.state === 'done' && !said.rang) requireNotHeld({ stop, step })
  if (said.state === 'overridden') requireLegal(stop)
  if (said.seen !== undefined && said.state === 'done' && step.step.kind === 'check')
    throw refusedBecause('This is checked, not ticked.', 'a check, or an override with a reason', 'a tick', 'stepKey')
  if (said.state !== 'done' && said.note.trim().length < 3)
    throw refusedBecause('The reason is missing.', 'a reason in a few words', said.note, 'note')
  const refused = said.state === 'done' ? refusedNote(step, said.note) : undefined
  if (refused) throw refusedBecause(refused.what, refused.expected, said.note, 'note')
  await saveStep(tx, job.id, row, step.key, { state: said.state, note: said.note, wait: row?.wait ?? null })
  const words = { done: 'done', overridden: 'overridden', parked: 'parked', unexpected: 'something else was seen' }
  await tx.log(job.id, `${stop.title}: "${step.step.say}" ${words[said.state]}.${said.note ? ` ${said.note}` : ''}`, {
    stepKey: step.key,
    protects: step.step.protects ?? null,
  })
  if (said.state === 'done' || said.state === 'overridden') await follow(tx, { job, stop, step }, said.note)
  if (said.state === 'done') await prove(tx, { job, stop, step }, said.note)
}

/** What is seen on the walk proves rungs of every handshake of the device: nobody sees it twice. */
async function prove(tx: Tx, { job, stop, step }: StepPlace, note: string): Promise<void> {
  const content = evidenceOf(stop, step, note)
  if (!content) return
  for (const handshake of job.handshakes.filter((each) => each.deviceId === step.deviceId))
    await addEvidence(tx, job, handshake, { ...content, verdict: 'proven', detail: [`First contact: ${stop.title}`] })
}

function evidenceOf(
  stop: Stop,
  step: WalkStep,
  note: string,
): Pick<EvidenceContent, 'rung' | 'how' | 'value'> | undefined {
  const { kind, check, say } = step.step
  if (check === 'reached-planned') return { rung: 'reached', how: 'read-live', value: note }
  if (stop.action?.kind !== 'group-on') return undefined
  if (kind === 'expect') return { rung: 'powered', how: 'seen', value: `Seen as expected: ${say}` }
  const last = stop.steps.filter((each) => each.deviceId === step.deviceId && each.step.kind === 'caution').at(-1)
  return last?.key === step.key ? { rung: 'safe', how: 'seen', value: `Cautions read before power: ${say}` } : undefined
}

/** Refuses what comes after a step that protects and is not settled yet. */
export function requireNotHeld({ stop, step }: Pick<StepPlace, 'stop' | 'step'>): void {
  requireLegal(stop)
  const held = heldBackBy(stop, step.key)
  if (held)
    throw refusedBecause(
      `"${held.step.say}" comes before this: it protects ${held.step.protects ?? 'people'}.`,
      'that step done, or overridden with a reason',
      'not done yet',
      'stepKey',
    )
}

/** A stop that would bring two live devices onto one address is not done, whatever the reason. */
function requireLegal({ held }: Stop): void {
  if (held)
    throw refusedBecause(held.why, held.help.join(' Or: ') || 'what it waits for', 'a conflict in the plant', 'stepKey')
}

function requireSeen(row: WalkStepRow | null, step: WalkStep, said: Said): void {
  if (said.seen === undefined || said.seen === (row?.version ?? 0)) return
  const who = row ? `${row.who} has: ${row.state}` : 'nothing'
  throw new Refused(
    409,
    [
      {
        what: row ? `${row.who} was at this step meanwhile.` : 'This step was taken back meanwhile.',
        where: 'stepKey',
        expected: `version ${row?.version ?? 0}`,
        found: `version ${said.seen}`,
      },
    ],
    { stepKey: step.key, who },
  )
}

async function saveStep(
  tx: Tx,
  jobId: string,
  row: WalkStepRow | null,
  stepKey: string,
  fields: Pick<WalkStepRow, 'state' | 'note' | 'wait'>,
): Promise<void> {
  const stamp = { ...fields, who: tx.who, at: tx.now }
  if (row) await tx.manager.update(walkSteps, { id: row.id }, { ...stamp, version: row.version + 1 })
  else await tx.manager.insert(walkSteps, { id: randomUUID(), jobId, stepKey, ...stamp, version: 1 })
}

async function follow(tx: Tx, { job, stop, step }: StepPlace, note: string): Promise<void> {
  const { facts: found, changes, leaves, putsBack } = consequencesOf(job, stop, step, note)
  for (const fact of found) await addFact(tx, job.id, fact)
  if (changes.length > 0) await applyChangeList(tx, job.id, changes)
  for (const start of putsBack) {
    const open = await tx.manager.find(temporaries, { where: { jobId: job.id, backAt: IsNull() } })
    for (const thing of open.filter(({ what }) => what.startsWith(start)))
      await tx.manager.update(
        temporaries,
        { id: thing.id },
        { backBy: tx.who, backAt: tx.now, version: thing.version + 1 },
      )
  }
  if (leaves) await addTemporary(tx, job.id, leaves)
}

/** Takes back what was said of a step; what followed from it stays in the log and as facts. */
export async function reopenStep(tx: Tx, jobId: string, stepKey: string): Promise<void> {
  const row = await tx.manager.findOne(walkSteps, { where: { jobId, stepKey } })
  if (!row) throw notFound('step', stepKey)
  await tx.manager.delete(walkSteps, { id: row.id })
  await tx.log(jobId, `Step taken back: ${stepKey}`, { state: row.state, note: row.note })
}

/** Keeps a running wait; it survives a restart. */
export async function saveWait(tx: Tx, jobId: string, stepKey: string, wait: WaitRecord, note = ''): Promise<void> {
  const row = await tx.manager.findOne(walkSteps, { where: { jobId, stepKey } })
  await saveStep(tx, jobId, row, stepKey, { state: 'waiting', note, wait: JSON.stringify(wait) })
}

export async function addFact(
  tx: Tx,
  jobId: string,
  fact: NewFact | (Omit<NewFact, 'how'> & { readonly how: string }),
): Promise<void> {
  const device = await tx.manager.findOne(devices, { where: { id: fact.deviceId, jobId } })
  if (!device) throw notFound('device', fact.deviceId)
  await tx.manager.insert(facts, { id: randomUUID(), jobId, ...fact, who: tx.who, at: tx.now })
  await tx.log(jobId, `${device.tag}, ${fact.setting}: ${fact.standing} ${fact.text}`, { how: fact.how })
}

export async function addTemporary(tx: Tx, jobId: string, { what, putBack }: NewTemporary): Promise<string> {
  const id = randomUUID()
  await tx.manager.insert(temporaries, {
    id,
    jobId,
    what,
    putBack,
    who: tx.who,
    at: tx.now,
    backBy: null,
    backAt: null,
    version: 1,
  })
  await tx.log(jobId, `Temporary: ${what}`, { putBack })
  return id
}

/** Something temporary was seen to be back. */
export async function putBack(tx: Tx, id: string, version: number): Promise<void> {
  const row = await tx.manager.findOne(temporaries, { where: { id } })
  if (!row) throw notFound('temporary thing', id)
  if (row.version !== version || row.backAt !== null)
    throw new Refused(
      409,
      [
        {
          what: row.backBy ? `${row.backBy} saw it back already.` : 'It was changed meanwhile.',
          where: 'version',
          expected: String(row.version),
          found: String(version),
        },
      ],
      row,
    )
  await tx.manager.update(temporaries, { id }, { backBy: tx.who, backAt: tx.now, version: version + 1 })
  await tx.log(row.jobId, `Back: ${row.what}`)
  const plugged = (await tx.manager.find(devices, { where: { jobId: row.jobId } })).find(
    (device) => leadOut(device.tag) === row.what,
  )
  if (plugged)
    await addFact(tx, row.jobId, {
      deviceId: plugged.id,
      setting: LEAD_SETTING,
      standing: 'in-force',
      text: 'plugged',
      how: 'seen',
    })
}

export async function addRun(tx: Tx, jobId: string, run: RunFacts): Promise<string> {
  const here = await tx.manager.find(ownRuns, { where: { jobId, removedAt: IsNull() } })
  if (here.some((row) => JSON.parse(row.facts).id === run.id))
    throw refusedBecause(`There is a run "${run.id}" in this job already.`, 'an id of its own', run.id, 'facts.id')
  const id = randomUUID()
  await tx.manager.insert(ownRuns, { id, jobId, facts: JSON.stringify(run), version: 1, removedAt: null })
  await tx.log(jobId, `Run added: ${run.name}`, { id: run.id })
  return id
}

export async function removeRun(tx: Tx, id: string, version: number): Promise<void> {
  const row = await tx.manager.findOne(ownRuns, { where: { id, removedAt: IsNull() } })
  if (!row || row.version !== version) throw notFound('run', id)
  await tx.manager.update(ownRuns, { id }, { removedAt: tx.now, version: version + 1 })
  await tx.log(row.jobId, `Run removed: ${JSON.parse(row.facts).name}`)
}

/** Keeps a document as evidence: a console session, a picture of what runs, what a search found. */
export async function keep(
  tx: Tx,
  jobId: string,
  what: { readonly deviceId: string | null; readonly kind: string; readonly title: string; readonly content: unknown },
): Promise<string> {
  const id = randomUUID()
  await tx.manager.insert(keepsakes, {
    id,
    jobId,
    ...what,
    content: JSON.stringify(what.content),
    who: tx.who,
    at: tx.now,
  })
  await tx.log(jobId, `Kept: ${what.title}`, { id, kind: what.kind })
  return id
}

/** Writes a whole walk of a new job. */
export async function writeNewWalk(tx: Tx, jobId: string, walk: WalkRecord): Promise<void> {
  const { settings, order, version } = walk
  await tx.manager.insert(walks, { jobId, settings: JSON.stringify(settings), order: JSON.stringify(order), version })
  for (const step of walk.steps)
    await tx.manager.insert(walkSteps, { ...step, jobId, wait: step.wait && JSON.stringify(step.wait) })
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

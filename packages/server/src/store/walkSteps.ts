import { randomUUID } from 'node:crypto'
import type { StepSettling } from '@calm/contract/walk'
import { textFact } from '@calm/core/evidence'
import { deviceOf, type Job } from '@calm/core/job'
import {
  consequencesOf,
  heldBackBy,
  refusedNote,
  type Rests,
  type Stop,
  type WaitRecord,
  type WalkStep,
} from '@calm/core/procedure'
import { IsNull } from 'typeorm'
import { temporaries, walkSteps, type WalkStepRow } from '../db'
import { applyChangeList } from './changeList'
import { addDeviceEvidence, type EvidenceContent } from './record'
import { notFound, Refused, refusedBecause } from './refusals'
import { addFact } from './settingFacts'
import type { Tx } from './store'
import { addTemporary } from './temporary'
import type { Witness } from './witness'

/** Where a step is, in the walk as it is now. */
export interface StepPlace {
  readonly jobId: string
  readonly stop: Stop
  readonly step: WalkStep
}

type Step = Pick<StepPlace, 'stop' | 'step'>

/** What a page or the watcher says of a step. */
type Said = Pick<StepSettling, 'state' | 'note'> & {
  readonly seen?: number
  /** A wait that ends by itself: what had to come before it was asked when it began. */
  readonly rang?: boolean
  /** Of a check that passed: that it was made on the plan as it is, and what it rests on. */
  readonly checked?: { readonly witness: Witness; readonly rests: Rests }
}

/** Settles one step: its record, the facts that follow, what goes into the line-up, what goes into the ledger. */
export async function settleStep(tx: Tx, { jobId, stop, step }: StepPlace, said: Said): Promise<void> {
  const job = await tx.job(jobId)
  const row = await tx.manager.findOne(walkSteps, { where: { jobId: job.id, stepKey: step.key } })
  requireSeen(row, step, said)
  if (said.state === 'done' && !said.rang) requireNotHeld({ stop, step })
  if (said.state === 'overridden') requireLegal(stop)
  if (said.state === 'done' && step.step.kind === 'check' && !said.checked)
    throw refusedBecause('This is checked, not ticked.', 'a check, or an override with a reason', 'a tick', 'stepKey')
  if (said.state !== 'done' && said.note.trim().length < 3)
    throw refusedBecause('The reason is missing.', 'a reason in a few words', said.note, 'note')
  const refused = said.state === 'done' ? refusedNote(step, said.note, deviceOf(job, step.deviceId ?? '')) : undefined
  if (refused) throw refusedBecause(refused.what, refused.expected, said.note, 'note')
  await saveStep(tx, job.id, row, step.key, {
    state: said.state,
    note: said.note,
    wait: row?.wait ?? null,
    rests: said.checked ? JSON.stringify(said.checked.rests) : null,
  })
  const words = { done: 'done', overridden: 'overridden', parked: 'parked', unexpected: 'something else was seen' }
  await tx.log(job.id, `${stop.title}: "${step.step.say}" ${words[said.state]}.${said.note ? ` ${said.note}` : ''}`, {
    stepKey: step.key,
    protects: step.step.protects ?? null,
  })
  if (said.state === 'done' || said.state === 'overridden') await follow(tx, job, { stop, step }, said.note, said.state)
  if (said.state === 'done') await prove(tx, job.id, { stop, step }, said)
}

/** What is seen on the walk is evidence of the device, for every handshake of it: nobody sees it twice. */
async function prove(tx: Tx, jobId: string, { stop, step }: Step, said: Said): Promise<void> {
  for (const deviceId of step.deviceIds) {
    const content = evidenceOf(stop, step, said, deviceId)
    if (!content) continue
    const { value, ...seen } = content
    const facts = [value, `First contact: ${stop.title}`].map(textFact)
    await addDeviceEvidence(tx, jobId, deviceId, { ...seen, verdict: 'proven', facts })
  }
}

type SeenOnWalk = { readonly value: string } & (
  | Pick<Extract<EvidenceContent, { how: 'read-live' }>, 'rung' | 'how' | 'witness'>
  | Pick<Exclude<EvidenceContent, { how: 'read-live' }>, 'rung' | 'how'>
)

function evidenceOf(stop: Stop, step: WalkStep, { note, checked }: Said, deviceId: string): SeenOnWalk | undefined {
  const { kind, check, say } = step.step
  if (check === 'reached-planned')
    return checked && { rung: 'reached', how: 'read-live', witness: checked.witness, value: note }
  if (stop.action?.kind !== 'group-on') return undefined
  if (kind === 'expect') return { rung: 'powered', how: 'seen', value: `Seen as expected: ${say}` }
  const last = stop.steps.filter((each) => each.deviceIds.includes(deviceId) && each.step.kind === 'caution').at(-1)
  return last?.key === step.key ? { rung: 'safe', how: 'seen', value: `Cautions read before power: ${say}` } : undefined
}

/** Refuses what comes after a step that protects and is not settled yet. */
export function requireNotHeld({ stop, step }: Step): void {
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
  fields: Pick<WalkStepRow, 'state' | 'note' | 'wait' | 'rests'>,
): Promise<void> {
  const stamp = { ...fields, who: tx.who, at: tx.now }
  if (row) await tx.manager.update(walkSteps, { id: row.id }, { ...stamp, version: row.version + 1 })
  else await tx.manager.insert(walkSteps, { id: randomUUID(), jobId, stepKey, ...stamp, version: 1 })
  tx.walkChanged(jobId)
}

async function follow(
  tx: Tx,
  job: Job,
  { stop, step }: Step,
  note: string,
  state: 'done' | 'overridden',
): Promise<void> {
  const { facts: found, changes, leaves, putsBack } = consequencesOf(job, stop, step, note, state)
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
  await saveStep(tx, jobId, row, stepKey, { state: 'waiting', note, wait: JSON.stringify(wait), rests: null })
}

import { randomUUID } from 'node:crypto'
import type { ForcedFields, NewDevice, NewJob, Patch, PointFields, TermFields } from '@calm/contract'
import { blankDevice, blankPort, isFromLineUp, type Job } from '@calm/core/job'
import { termCatalogue } from '@calm/core/terms'
import { devices, forced, handshakes, jobs, points, terms } from '../db'
import { addRow } from './lineUp'
import { refusedBecause } from './refusals'
import { changeRow, differences, removedRow, rowById } from './rows'
import type { Tx } from './store'

export async function addJob(tx: Tx, fields: NewJob): Promise<string> {
  const id = randomUUID()
  await tx.manager.insert(jobs, { id, ...fields, version: 1, addressRules: '[]', createdAt: tx.now, removedAt: null })
  await tx.log(id, 'Job begun', fields)
  return id
}

export async function changeJob(
  tx: Tx,
  id: string,
  { version, ...fields }: Patch<Pick<Job, 'name' | 'place' | 'mode'>>,
): Promise<void> {
  const before = await rowById(tx, jobs, id)
  await changeRow(tx, jobs, id, version, fields)
  await tx.log(id, `Job: ${differences(before, fields)}`)
}

export async function removeJob(tx: Tx, id: string): Promise<void> {
  const row = await rowById(tx, jobs, id)
  await changeRow(tx, jobs, id, row.version, {})
  await tx.manager.update(jobs, { id }, { removedAt: tx.now })
  await tx.log(id, 'Job removed')
}

export async function restoreJob(tx: Tx, id: string): Promise<void> {
  const row = await removedRow(tx, jobs, id)
  await tx.manager.update(jobs, { id }, { removedAt: null, version: row.version + 1 })
  await tx.log(id, 'Job brought back')
}

/** A new device, with its port where it has one. */
export async function addDevice(tx: Tx, jobId: string, { port, ...fields }: NewDevice): Promise<string> {
  const last = await tx.manager.maximum(devices, 'position', { jobId })
  const id = await addRow(tx, jobId, 'device', { ...blankDevice, ...fields, position: (last ?? 0) + 1 })
  if (port) await addRow(tx, jobId, 'port', { ...blankPort, ...port, deviceId: id })
  return id
}

/** A new handshake begins with one point, so that there is something to prove. */
export async function addHandshake(
  tx: Tx,
  jobId: string,
  ends: { controllerId: string; deviceId: string },
): Promise<string> {
  const controller = await rowById(tx, devices, ends.controllerId)
  const device = await rowById(tx, devices, ends.deviceId)
  if (controller.jobId !== jobId || device.jobId !== jobId) {
    throw refusedBecause('Both ends must be devices of this job.', 'two devices of this job', 'a device of another job')
  }
  const known = await tx.manager.findOne(handshakes, { where: { jobId, ...ends } })
  if (known && !known.removedAt) {
    throw refusedBecause(`${controller.tag} and ${device.tag} have a handshake already.`, 'another pair', known.name)
  }
  const id = randomUUID()
  const last = await tx.manager.maximum(handshakes, 'position', { jobId })
  const name = `${controller.tag} to ${device.tag}`
  await tx.manager.insert(handshakes, {
    id,
    jobId,
    position: (last ?? 0) + 1,
    name,
    ...ends,
    version: 1,
    removedAt: null,
  })
  await tx.manager.insert(points, {
    id: randomUUID(),
    handshakeId: id,
    position: 0,
    tag: `${device.tag.replace(/[^A-Za-z0-9]/g, '')}_Value`,
    quantity: 'Value',
    unit: '',
    decimals: 2,
    served: null,
    shownAt: '',
    reference: null,
    tolerance: JSON.stringify({ kind: 'percent-of-reading', percent: 1 }),
    version: 1,
  })
  await tx.log(jobId, `Handshake ${name} added`)
  return id
}

/** Only terms of the catalogue, at an end that does not take them from the line-up. */
function requireStoredTerm(termId: string, end: string): void {
  const known = termCatalogue.find((term) => term.id === termId)
  if (!known || (end !== 'controller' && end !== 'device')) {
    const expected = `${termCatalogue.map((term) => term.id).join(', ')}, at controller or device`
    throw refusedBecause('There is no such term.', expected, `${termId} at ${end}`, 'termId')
  }
  if (isFromLineUp(known.id, end)) {
    throw refusedBecause(
      `${known.name} of the ${end} end is held by the line-up.`,
      'a change of the device or its port',
      termId,
      'termId',
    )
  }
}

/** Taken out of sight with its terms and evidence; the log keeps what was recorded. */
export async function removeHandshake(tx: Tx, id: string, version: number): Promise<void> {
  const before = await changeRow(tx, handshakes, id, version, {})
  await tx.manager.update(handshakes, { id }, { removedAt: tx.now })
  await tx.log(before.jobId, `Handshake ${before.name} removed`)
}

export async function restoreHandshake(tx: Tx, id: string): Promise<void> {
  const row = await removedRow(tx, handshakes, id)
  await tx.manager.update(handshakes, { id }, { removedAt: null, version: row.version + 1 })
  await tx.log(row.jobId, `Handshake ${row.name} brought back`)
}

/** Sets what one end says of a term; version 0 for the first time. */
export async function putTerm(
  tx: Tx,
  handshakeId: string,
  termId: string,
  end: string,
  { version, ...fields }: Patch<TermFields> & TermFields,
): Promise<void> {
  const handshake = await rowById(tx, handshakes, handshakeId)
  requireStoredTerm(termId, end)
  const row = await tx.manager.findOne(terms, { where: { handshakeId, termId, end } })
  if (!row && version === 0) {
    await tx.manager.insert(terms, { id: randomUUID(), handshakeId, termId, end, ...fields, version: 1 })
  } else {
    await changeRow(tx, terms, row?.id ?? `${termId}.${end}`, version, fields)
  }
  await tx.log(
    handshake.jobId,
    `${handshake.name}, ${termId} at the ${end} end: ${row?.text || 'blank'} -> ${fields.text || 'blank'}`,
    fields,
  )
}

export async function changePoint(tx: Tx, id: string, { version, ...fields }: Patch<PointFields>): Promise<void> {
  const before = await rowById(tx, points, id)
  const handshake = await rowById(tx, handshakes, before.handshakeId)
  const { served, reference, tolerance, ...plain } = fields
  const stored = {
    ...plain,
    ...(served !== undefined && { served: served && JSON.stringify(served) }),
    ...(reference !== undefined && { reference: reference && JSON.stringify(reference) }),
    ...(tolerance !== undefined && { tolerance: JSON.stringify(tolerance) }),
  }
  await changeRow(tx, points, id, version, stored)
  await tx.log(handshake.jobId, `${handshake.name}, point ${before.tag}: ${differences(before, stored)}`)
}

export async function addForced(tx: Tx, jobId: string, fields: ForcedFields): Promise<string> {
  await rowById(tx, jobs, jobId)
  const id = randomUUID()
  await tx.manager.insert(forced, {
    id,
    jobId,
    ...fields,
    who: tx.who,
    at: tx.now,
    releasedBy: null,
    releasedAt: null,
    version: 1,
  })
  await tx.log(jobId, `Forced value noted: ${fields.where} = ${fields.value}`)
  return id
}

export async function releaseForced(tx: Tx, id: string, version: number): Promise<void> {
  const before = await rowById(tx, forced, id)
  if (before.releasedAt !== null)
    throw refusedBecause('It is released already.', 'a value that is still forced', before.where)
  await changeRow(tx, forced, id, version, { releasedBy: tx.who, releasedAt: tx.now })
  await tx.log(before.jobId, `Forced value seen released: ${before.where}`)
}

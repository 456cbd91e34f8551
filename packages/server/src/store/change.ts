import { randomUUID } from 'node:crypto'
import type {
  DeviceBatch,
  DeviceFields,
  ForcedFields,
  NetworkFields,
  NewDevice,
  NewJob,
  Patch,
  PointFields,
  PortFields,
  TermFields,
} from '@calm/contract'
import { isFromLineUp, type Job } from '@calm/core/job'
import { termCatalogue } from '@calm/core/terms'
import { IsNull, type EntityManager } from 'typeorm'
import { devices, forced, handshakes, jobs, networks, points, ports, terms } from '../db'
import { Refused, refusedBecause } from './refusals'
import { changeRow, differences, removedRow, rowById } from './rows'
import type { Tx } from './store'

/** Tags are unique within a job, so that a record can be read without ids. */
async function requireFreeTag(manager: EntityManager, jobId: string, tag: string, except?: string): Promise<void> {
  const rows = await manager.find(devices, { where: { jobId, tag } })
  if (rows.some((row) => row.id !== except && !row.removedAt)) {
    throw refusedBecause(`There is a device ${tag} already.`, 'a tag of its own', tag, 'tag')
  }
}

async function requireInJob(
  manager: EntityManager,
  jobId: string,
  fields: { networkId?: string | null; behindId?: string | null },
): Promise<void> {
  if (fields.networkId) {
    const row = await manager.findOne(networks, { where: { id: fields.networkId, jobId } })
    if (!row)
      throw refusedBecause(
        'There is no such network in this job.',
        'a network of this job',
        fields.networkId,
        'networkId',
      )
  }
  if (fields.behindId) {
    const row = await manager.findOne(devices, { where: { id: fields.behindId, jobId } })
    if (!row)
      throw refusedBecause('There is no such device in this job.', 'a device of this job', fields.behindId, 'behindId')
  }
}

export async function addJob(tx: Tx, fields: NewJob): Promise<string> {
  const id = randomUUID()
  await tx.manager.insert(jobs, { id, ...fields, version: 1, createdAt: tx.now, removedAt: null })
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

export async function addNetwork(tx: Tx, jobId: string, fields: NetworkFields): Promise<string> {
  await rowById(tx, jobs, jobId)
  const id = randomUUID()
  await tx.manager.insert(networks, { id, jobId, ...fields, version: 1, removedAt: null })
  await tx.log(jobId, `Network ${fields.name} added`, fields)
  return id
}

export async function changeNetwork(tx: Tx, id: string, { version, ...fields }: Patch<NetworkFields>): Promise<void> {
  const before = await rowById(tx, networks, id)
  await changeRow(tx, networks, id, version, fields)
  await tx.log(before.jobId, `Network ${before.name}: ${differences(before, fields)}`)
}

export async function removeNetwork(tx: Tx, id: string, version: number): Promise<void> {
  const before = await changeRow(tx, networks, id, version, {})
  await tx.manager.update(networks, { id }, { removedAt: tx.now })
  await tx.log(before.jobId, `Network ${before.name} removed`)
}

export async function addDevice(tx: Tx, jobId: string, { port, ...fields }: NewDevice): Promise<string> {
  await rowById(tx, jobs, jobId)
  await requireFreeTag(tx.manager, jobId, fields.tag)
  await requireInJob(tx.manager, jobId, { behindId: fields.behindId, ...(port ? { networkId: port.networkId } : {}) })
  const id = randomUUID()
  const last = await tx.manager.maximum(devices, 'position', { jobId })
  await tx.manager.insert(devices, { id, jobId, position: (last ?? 0) + 1, ...fields, version: 1, removedAt: null })
  if (port) await tx.manager.insert(ports, { id: randomUUID(), deviceId: id, ...port, version: 1 })
  await tx.log(jobId, `Device ${fields.tag} added`, { ...fields, port })
  return id
}

/** All devices of a table, or none. Those that hang behind another one of the table find it by its tag. */
export async function addDevices(tx: Tx, jobId: string, { devices: lines }: DeviceBatch): Promise<readonly string[]> {
  const ids: string[] = []
  for (const [index, { behindTag: _behindTag, ...line }] of lines.entries()) {
    try {
      ids.push(await addDevice(tx, jobId, { ...line, behindId: null }))
    } catch (reason) {
      throw reason instanceof Refused ? reason.within(`devices[${index}]`) : reason
    }
  }
  for (const [index, { behindTag }] of lines.entries()) {
    if (behindTag === null) continue
    const before = await tx.manager.findOne(devices, { where: { jobId, tag: behindTag, removedAt: IsNull() } })
    if (!before || before.id === ids[index]) {
      throw refusedBecause(
        `There is no device ${behindTag} to hang behind.`,
        'a tag of this job',
        behindTag,
        `devices[${index}].behindTag`,
      )
    }
    await tx.manager.update(devices, { id: ids[index] ?? '' }, { behindId: before.id })
  }
  return ids
}

export async function changeDevice(tx: Tx, id: string, { version, ...fields }: Patch<DeviceFields>): Promise<void> {
  const before = await rowById(tx, devices, id)
  if (fields.tag !== undefined) await requireFreeTag(tx.manager, before.jobId, fields.tag, id)
  if (fields.behindId === id)
    throw refusedBecause('A device cannot hang behind itself.', 'another device', before.tag, 'behindId')
  await requireInJob(tx.manager, before.jobId, fields)
  await changeRow(tx, devices, id, version, fields)
  await tx.log(before.jobId, `Device ${before.tag}: ${differences(before, fields)}`)
}

/** Taken out of sight, not out of the database: one action brings it back with everything it had. */
export async function removeDevice(tx: Tx, id: string, version: number): Promise<void> {
  const before = await changeRow(tx, devices, id, version, {})
  await tx.manager.update(devices, { id }, { removedAt: tx.now })
  await tx.log(before.jobId, `Device ${before.tag} removed`)
}

export async function restoreDevice(tx: Tx, id: string): Promise<void> {
  const row = await removedRow(tx, devices, id)
  await requireFreeTag(tx.manager, row.jobId, row.tag, id)
  await tx.manager.update(devices, { id }, { removedAt: null, version: row.version + 1 })
  await tx.log(row.jobId, `Device ${row.tag} brought back`)
}

export async function restoreNetwork(tx: Tx, id: string): Promise<void> {
  const row = await removedRow(tx, networks, id)
  await tx.manager.update(networks, { id }, { removedAt: null, version: row.version + 1 })
  await tx.log(row.jobId, `Network ${row.name} brought back`)
}

export async function restoreJob(tx: Tx, id: string): Promise<void> {
  const row = await removedRow(tx, jobs, id)
  await tx.manager.update(jobs, { id }, { removedAt: null, version: row.version + 1 })
  await tx.log(id, 'Job brought back')
}

export async function changePort(tx: Tx, id: string, { version, ...fields }: Patch<PortFields>): Promise<void> {
  const before = await rowById(tx, ports, id)
  const device = await rowById(tx, devices, before.deviceId)
  await requireInJob(tx.manager, device.jobId, fields)
  await changeRow(tx, ports, id, version, fields)
  await tx.log(device.jobId, `Device ${device.tag}, port ${before.name}: ${differences(before, fields)}`)
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

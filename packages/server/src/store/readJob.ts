import type { Device, Handshake, Job } from '@calm/core/job'
import { In, IsNull, type EntityManager } from 'typeorm'
import {
  acceptances,
  decisions,
  devices,
  evidence,
  forced,
  handshakes,
  jobs,
  kinds,
  lines,
  networks,
  requests,
  type NodeRow,
  type PointRow,
  type PortRow,
  type TermRow,
} from '../db'
import { notFound } from './refusals'

/** Reads one JSON column that this program wrote itself. */
const json = (text: string) => JSON.parse(text)

const without = <T extends object, K extends keyof T>(row: T, ...keys: readonly K[]): Omit<T, K> => {
  const copy = { ...row }
  for (const key of keys) delete copy[key]
  return copy
}

function grouped<T, K extends keyof T>(rows: readonly T[], key: K): (id: T[K]) => readonly T[] {
  const map = new Map<T[K], T[]>()
  for (const row of rows) {
    const known = map.get(row[key])
    if (known) known.push(row)
    else map.set(row[key], [row])
  }
  return (id) => map.get(id) ?? []
}

/** The whole job as it travels, without rows that were removed and without links to them. */
export async function readJob(manager: EntityManager, jobId: string): Promise<Job> {
  const job = await manager.findOne(jobs, { where: { id: jobId, removedAt: IsNull() } })
  if (!job) throw notFound('job', jobId)
  const here = { where: { jobId, removedAt: IsNull() } }
  const networkRows = await manager.find(networks, { ...here, order: { name: 'ASC' } })
  const deviceRows = await manager.find(devices, { ...here, order: { position: 'ASC', tag: 'ASC' } })
  const handshakeRows = await manager.find(handshakes, { ...here, order: { position: 'ASC' } })
  const forcedRows = await manager.find(forced, { where: { jobId }, order: { at: 'ASC' } })
  const networkIds = new Set(networkRows.map((row) => row.id))
  const deviceIds = new Set(deviceRows.map((row) => row.id))
  // Several thousand ids would be more than one statement takes, so rows of devices are found through their job.
  const ofDevices = async <T>(table: string, order: string): Promise<readonly T[]> =>
    manager.query(
      `SELECT t.* FROM "${table}" t JOIN "device" d ON d."id" = t."deviceId"
       WHERE d."jobId" = ? AND d."removedAt" IS NULL AND t."removedAt" IS NULL ORDER BY ${order}`,
      [jobId],
    )
  const portsOf = grouped(await ofDevices<PortRow>('port', 't."name"'), 'deviceId')
  const lineRows = await manager.find(lines, { ...here, order: { name: 'ASC' } })
  const lineIds = new Set(lineRows.map((row) => row.id))
  const nodesOf = grouped(await ofDevices<NodeRow>('node', 't."name", t."id"'), 'deviceId')
  const kindRows = await manager.find(kinds, { ...here, order: { id: 'ASC' } })
  const requestRows = await manager.find(requests, { ...here, order: { askedOn: 'ASC', id: 'ASC' } })
  const acceptanceRows = await manager.find(acceptances, { ...here, order: { at: 'ASC' } })
  const inHandshakes = { where: { handshakeId: In(handshakeRows.map((row) => row.id)) } }
  // Terms and points are many; plain rows are read several times faster than entities.
  const plain = async <T>(table: string, order: string): Promise<readonly T[]> =>
    manager.query(
      `SELECT t.* FROM "${table}" t JOIN "handshake" h ON h."id" = t."handshakeId"
       WHERE h."jobId" = ? AND h."removedAt" IS NULL ORDER BY ${order}`,
      [jobId],
    )
  const termsOf = grouped(await plain<TermRow>('term', 't."termId", t."end"'), 'handshakeId')
  const pointsOf = grouped(await plain<PointRow>('point', 't."position"'), 'handshakeId')
  const evidenceOf = grouped(await manager.find(evidence, { ...inHandshakes, order: { at: 'ASC' } }), 'handshakeId')
  const decisionsOf = grouped(await manager.find(decisions, { ...inHandshakes, order: { at: 'ASC' } }), 'handshakeId')
  return {
    ...without(job, 'createdAt', 'removedAt'),
    addressRules: json(job.addressRules),
    networks: networkRows.map((row) => without(row, 'jobId', 'removedAt')),
    devices: deviceRows.map((row) => ({
      ...without(row, 'jobId', 'removedAt'),
      namePlaces: json(row.namePlaces),
      firmwareOfId: row.firmwareOfId !== null && deviceIds.has(row.firmwareOfId) ? row.firmwareOfId : null,
      behindId: row.behindId !== null && deviceIds.has(row.behindId) ? row.behindId : null,
      ports: portsOf(row.id).map((port) => ({
        ...without(port, 'deviceId', 'removedAt'),
        networkId: port.networkId !== null && networkIds.has(port.networkId) ? port.networkId : null,
      })),
      nodes: nodesOf(row.id)
        .filter((node) => lineIds.has(node.lineId))
        .map((node) => ({ ...without(node, 'deviceId', 'removedAt'), isMaster: Boolean(node.isMaster) })),
    })) as unknown as readonly Device[],
    handshakes: handshakeRows
      .filter((row) => deviceIds.has(row.controllerId) && deviceIds.has(row.deviceId))
      .map((row) => ({
        ...without(row, 'jobId', 'removedAt'),
        terms: termsOf(row.id).map((term) => without(term, 'handshakeId')),
        points: pointsOf(row.id).map((point) => ({
          ...without(point, 'handshakeId', 'position'),
          served: point.served === null ? null : json(point.served),
          reference: point.reference === null ? null : json(point.reference),
          tolerance: json(point.tolerance),
        })),
        evidence: evidenceOf(row.id).map((each) => ({
          ...without(each, 'handshakeId'),
          basis: json(each.basis),
          detail: json(each.detail),
        })),
        decisions: decisionsOf(row.id).map((each) => without(each, 'handshakeId')),
      })) as unknown as readonly Handshake[],
    forced: forcedRows.map((row) => without(row, 'jobId')),
    lines: lineRows.map((row) => without(row, 'jobId', 'removedAt')),
    kinds: kindRows.map((row) => ({ ...without(row, 'jobId', 'removedAt'), facts: json(row.facts) })),
    requests: requestRows.map((row) => ({ ...without(row, 'jobId', 'removedAt'), deviceIds: json(row.deviceIds) })),
    acceptances: acceptanceRows.map((row) => without(row, 'jobId', 'removedAt')),
  } as unknown as Job
}

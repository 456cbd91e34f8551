import type { Device, Handshake, Job } from '@calm/core/job'
import { In, IsNull, type EntityManager } from 'typeorm'
import {
  decisions,
  devices,
  evidence,
  forced,
  handshakes,
  jobs,
  networks,
  ports,
  type PointRow,
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
  const portsOf = grouped(
    await manager.find(ports, { where: { deviceId: In([...deviceIds]) }, order: { name: 'ASC' } }),
    'deviceId',
  )
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
    networks: networkRows.map((row) => without(row, 'jobId', 'removedAt')),
    devices: deviceRows.map((row) => ({
      ...without(row, 'jobId', 'removedAt'),
      behindId: row.behindId !== null && deviceIds.has(row.behindId) ? row.behindId : null,
      ports: portsOf(row.id).map((port) => ({
        ...without(port, 'deviceId'),
        networkId: port.networkId !== null && networkIds.has(port.networkId) ? port.networkId : null,
      })),
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
  } as Job
}

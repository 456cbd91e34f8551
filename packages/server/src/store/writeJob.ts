import { randomUUID } from 'node:crypto'
import type { Job } from '@calm/core/job'
import type { WalkRecord } from '@calm/core/procedure'
import type { EntitySchema, ObjectLiteral } from 'typeorm'
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
  nodes,
  points,
  ports,
  requests,
  terms,
} from '../db'
import type { Tx } from './store'
import { writeNewWalk } from './walk'

/** SQLite takes a limited number of values in one statement. */
const ROWS_AT_ONCE = 50

/**
 * Writes a whole job as new rows. Every id gets a new one, the same for the same, so a job may be imported twice.
 * @returns the id of the new job
 */
export async function writeNewJob(tx: Tx, job: Job, how: string, walk?: WalkRecord): Promise<string> {
  const ids = new Map<string, string>()
  const fresh = (id: string) => {
    const known = ids.get(id) ?? randomUUID()
    ids.set(id, known)
    return known
  }
  const freshOrNone = (id: string | null) => (id === null ? null : fresh(id))
  const add = async <T extends ObjectLiteral>(table: EntitySchema<T>, rows: readonly T[]) => {
    for (let k = 0; k < rows.length; k += ROWS_AT_ONCE) {
      await tx.manager.insert(table, rows.slice(k, k + ROWS_AT_ONCE))
    }
  }
  const jobId = fresh(job.id)
  const { name, place, mode } = job
  const addressRules = JSON.stringify(job.addressRules)
  await add(jobs, [{ id: jobId, name, place, mode, version: 1, addressRules, createdAt: tx.now, removedAt: null }])
  await add(
    networks,
    job.networks.map((row) => ({ ...row, id: fresh(row.id), jobId, removedAt: null })),
  )
  const ofJob = { jobId, removedAt: null }
  await add(
    lines,
    job.lines.map((row) => ({ ...row, id: fresh(row.id), ...ofJob })),
  )
  await add(
    kinds,
    job.kinds.map((row) => ({ ...row, id: fresh(row.id), facts: JSON.stringify(row.facts), ...ofJob })),
  )
  // Devices first without what they hang behind: that row may come later.
  await add(
    devices,
    job.devices.map(({ ports: _ports, nodes: _nodes, ...row }) => ({
      ...row,
      namePlaces: JSON.stringify(row.namePlaces),
      firmwareOfId: freshOrNone(row.firmwareOfId),
      id: fresh(row.id),
      jobId,
      behindId: null,
      removedAt: null,
    })),
  )
  for (const device of job.devices) {
    if (device.behindId !== null)
      await tx.manager.update(devices, { id: fresh(device.id) }, { behindId: fresh(device.behindId) })
  }
  await add(
    ports,
    job.devices.flatMap((device) =>
      device.ports.map((row) => ({
        ...row,
        id: fresh(row.id),
        deviceId: fresh(device.id),
        networkId: freshOrNone(row.networkId),
        removedAt: null,
      })),
    ),
  )
  await add(
    nodes,
    job.devices.flatMap((device) =>
      device.nodes.map((row) => ({
        ...row,
        id: fresh(row.id),
        deviceId: fresh(device.id),
        lineId: fresh(row.lineId),
        removedAt: null,
      })),
    ),
  )
  await add(
    requests,
    job.requests.map((row) => ({
      ...row,
      id: fresh(row.id),
      deviceIds: JSON.stringify(row.deviceIds.map(fresh)),
      ...ofJob,
    })),
  )
  await add(
    acceptances,
    job.acceptances.map((row) => ({ ...row, id: fresh(row.id), subjectId: fresh(row.subjectId), ...ofJob })),
  )
  await add(
    handshakes,
    job.handshakes.map(({ terms: _t, points: _p, evidence: _e, decisions: _d, ...row }) => ({
      ...row,
      id: fresh(row.id),
      jobId,
      controllerId: fresh(row.controllerId),
      deviceId: fresh(row.deviceId),
      removedAt: null,
    })),
  )
  const perHandshake = <T, R>(
    pick: (handshake: Job['handshakes'][number]) => readonly T[],
    make: (row: T, handshakeId: string, position: number) => R,
  ) =>
    job.handshakes.flatMap((handshake) =>
      pick(handshake).map((row, position) => make(row, fresh(handshake.id), position)),
    )
  await add(
    terms,
    perHandshake(
      (each) => each.terms,
      (row, handshakeId) => ({ ...row, id: fresh(row.id), handshakeId }),
    ),
  )
  await add(
    points,
    perHandshake(
      (each) => each.points,
      (row, handshakeId, position) => ({
        ...row,
        id: fresh(row.id),
        handshakeId,
        position,
        served: row.served && JSON.stringify(row.served),
        reference: row.reference && JSON.stringify(row.reference),
        tolerance: JSON.stringify(row.tolerance),
      }),
    ),
  )
  await add(
    evidence,
    perHandshake(
      (each) => each.evidence,
      (row, handshakeId) => ({
        ...row,
        id: fresh(row.id),
        handshakeId,
        basis: JSON.stringify(row.basis),
        detail: JSON.stringify(row.detail),
      }),
    ),
  )
  await add(
    decisions,
    perHandshake(
      (each) => each.decisions,
      (row, handshakeId) => ({ ...row, id: fresh(row.id), handshakeId }),
    ),
  )
  await add(
    forced,
    job.forced.map((row) => ({ ...row, id: fresh(row.id), jobId })),
  )
  if (walk) await writeNewWalk(tx, jobId, withFreshIds(walk, ids))
  await tx.log(jobId, how, { name, devices: job.devices.length, handshakes: job.handshakes.length })
  return jobId
}

const ID = /[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}/g

/**
 * The walk with every id made anew. Ids of rows stand inside the keys of steps and actions too, so the text is gone
 * through; what looks like an id and is none of this job stays as it is.
 */
function withFreshIds(walk: WalkRecord, ids: ReadonlyMap<string, string>): WalkRecord {
  const known = JSON.parse(JSON.stringify(walk).replace(ID, (id) => ids.get(id) ?? id)) as WalkRecord
  const own = <T extends { readonly id: string }>(rows: readonly T[]) =>
    rows.map((row) => ({ ...row, id: randomUUID() }))
  return {
    ...known,
    steps: own(known.steps),
    facts: own(known.facts),
    temporary: own(known.temporary),
    runs: own(known.runs),
  }
}

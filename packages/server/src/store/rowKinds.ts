import type { RowTable } from '@calm/core/lineUp'
import { isKnownKind } from '@calm/core/kind'
import { In, IsNull, type EntitySchema, type ObjectLiteral } from 'typeorm'
import { acceptances, devices, jobs, kinds, lines, networks, nodes, ports, requests } from '../db'
import { refusedBecause } from './refusals'
import type { Versioned } from './rows'
import type { Tx } from './store'

/** What a change may say of a row, as it lies in the database. */
export type StoredFields = Readonly<Record<string, unknown>>

/** Rows of the line-up: where they lie, how the log calls them, and what must hold among them. */
export interface RowKind {
  readonly table: EntitySchema<Versioned & ObjectLiteral>
  /** How the log calls one: `Device PD-101`. */
  readonly say: (row: ObjectLiteral) => string
  /** Fields that lie in the database as JSON. */
  readonly json: readonly string[]
  /** The job that a row belongs to; ports and nodes belong to it through their device. */
  readonly jobOf: (tx: Tx, row: ObjectLiteral) => Promise<string>
  /** Fields that name a row of another table of the same job. */
  readonly links: Readonly<
    Record<string, { readonly table: EntitySchema<Versioned & ObjectLiteral>; readonly name: string }>
  >
  /** What else must hold; asked when a row is added, changed or brought back. */
  readonly check?: (tx: Tx, jobId: string, fields: StoredFields, id: string) => Promise<void>
  /** What the server adds by itself to a new row. */
  readonly more?: (tx: Tx) => StoredFields
}

const any = (table: unknown) => table as EntitySchema<Versioned & ObjectLiteral>
const own = async (_tx: Tx, row: ObjectLiteral): Promise<string> => row.jobId
const ofDevice = async (tx: Tx, row: ObjectLiteral): Promise<string> => {
  const device = await tx.manager.findOneBy(devices, { id: row.deviceId })
  return device?.jobId ?? ''
}
const network = { table: any(networks), name: 'network' }
const device = { table: any(devices), name: 'device' }
const line = { table: any(lines), name: 'line' }

export const rowKinds: Readonly<Record<RowTable, RowKind>> = {
  job: {
    table: any(jobs),
    say: (row) => `Job ${row.name}`,
    json: ['addressRules'],
    jobOf: async (_tx, row) => row.id,
    links: {},
  },
  network: { table: any(networks), say: (row) => `Network ${row.name}`, json: [], jobOf: own, links: {} },
  line: { table: any(lines), say: (row) => `Line ${row.name}`, json: [], jobOf: own, links: {}, check: freeLineName },
  device: {
    table: any(devices),
    say: (row) => `Device ${row.tag}`,
    json: ['namePlaces'],
    jobOf: own,
    links: { behindId: device, firmwareOfId: device },
    check: async (tx, jobId, fields, id) => {
      await freeTag(tx, jobId, fields.tag, id)
      await knownKind(tx, jobId, fields.kind)
      for (const name of ['behindId', 'firmwareOfId'])
        if (fields[name] === id) throw refusedBecause('A device cannot name itself here.', 'another device', id, name)
    },
  },
  port: {
    table: any(ports),
    say: (row) => `Port ${row.name}`,
    json: [],
    jobOf: ofDevice,
    links: { networkId: network },
  },
  node: {
    table: any(nodes),
    say: (row) => (row.name === '' ? 'Node' : `Node ${row.name}`),
    json: [],
    jobOf: ofDevice,
    links: { lineId: line },
  },
  kind: {
    table: any(kinds),
    say: (row) => `Kind ${JSON.parse(row.facts).name}`,
    json: ['facts'],
    jobOf: own,
    links: {},
    check: freeKindId,
  },
  request: {
    table: any(requests),
    say: (row) => `Request "${row.what}"`,
    json: ['deviceIds'],
    jobOf: own,
    links: {},
    check: devicesOfJob,
  },
  acceptance: {
    table: any(acceptances),
    say: (row) => `Acceptance of ${row.rule}`,
    json: [],
    jobOf: own,
    links: {},
    more: (tx) => ({ who: tx.who, at: tx.now }),
  },
}

/** Fields as they lie in the database. */
export function stored(kind: RowKind, fields: StoredFields): StoredFields {
  if (kind.json.length === 0) return fields
  return Object.fromEntries(
    Object.entries(fields).map(([name, value]) => [name, kind.json.includes(name) ? JSON.stringify(value) : value]),
  )
}

/** Tags are unique within a job, so that a record can be read without ids. */
async function freeTag(tx: Tx, jobId: string, tag: unknown, except: string): Promise<void> {
  if (typeof tag !== 'string') return
  const rows = await tx.manager.find(devices, { where: { jobId, tag, removedAt: IsNull() } })
  if (rows.some((row) => row.id !== except))
    throw refusedBecause(`There is a device ${tag} already.`, 'a tag of its own', tag, 'tag')
}

async function freeLineName(tx: Tx, jobId: string, fields: StoredFields, except: string): Promise<void> {
  const { name } = fields
  if (typeof name !== 'string') return
  const rows = await tx.manager.find(lines, { where: { jobId, name, removedAt: IsNull() } })
  if (rows.some((row) => row.id !== except))
    throw refusedBecause(`There is a line ${name} already.`, 'a name of its own', name, 'name')
}

const ownKinds = async (tx: Tx, jobId: string) =>
  (await tx.manager.find(kinds, { where: { jobId, removedAt: IsNull() } })).map((row) => ({
    id: row.id,
    version: row.version,
    facts: JSON.parse(row.facts),
  }))

async function knownKind(tx: Tx, jobId: string, kind: unknown): Promise<void> {
  if (typeof kind !== 'string' || isKnownKind(kind, [])) return
  if (!isKnownKind(kind, await ownKinds(tx, jobId)))
    throw refusedBecause(`There is no kind ${kind} here.`, 'a kind that ships, or one of this job', kind, 'kind')
}

async function freeKindId(tx: Tx, jobId: string, fields: StoredFields, except: string): Promise<void> {
  if (typeof fields.facts !== 'string') return
  const { id } = JSON.parse(fields.facts)
  const others = (await ownKinds(tx, jobId)).filter((row) => row.id !== except)
  if (isKnownKind(id, others))
    throw refusedBecause(`There is a kind ${id} already.`, 'an id of its own', id, 'facts.id')
}

async function devicesOfJob(tx: Tx, jobId: string, fields: StoredFields): Promise<void> {
  if (typeof fields.deviceIds !== 'string') return
  const ids: readonly string[] = JSON.parse(fields.deviceIds)
  for (let k = 0; k < ids.length; k += 500) {
    const part = ids.slice(k, k + 500)
    const found = await tx.manager.countBy(devices, { id: In([...part]), jobId })
    if (found !== part.length)
      throw refusedBecause(
        'A device of the request is not in this job.',
        'devices of this job',
        `${found} of ${part.length}`,
        'deviceIds',
      )
  }
}

import { refusal, ok, type Result } from '../units'
import type { Device, Job } from '../job'

/** Rows of the line-up that people change. */
export type RowTable = 'job' | 'network' | 'line' | 'device' | 'port' | 'node' | 'kind' | 'request' | 'acceptance'

export type RowFields = Readonly<Record<string, unknown>>

/**
 * One change of one row. Several travel together and are carried out together or not at all. Who adds a row chooses its
 * id; a port and a node name their device in `deviceId`.
 */
export type Change =
  | {
      readonly op: 'set'
      readonly table: RowTable
      readonly id: string
      readonly version: number
      readonly fields: RowFields
    }
  | { readonly op: 'add'; readonly table: RowTable; readonly id: string; readonly fields: RowFields }
  | { readonly op: 'remove'; readonly table: RowTable; readonly id: string; readonly version: number }
  | { readonly op: 'restore'; readonly table: RowTable; readonly id: string }

interface Row {
  readonly id: string
  readonly version: number
}

/** A row of any table, as it stands in the job. */
export function rowIn(job: Job, table: RowTable, id: string): (Row & RowFields) | undefined {
  const found = rowsOf(job, table).find((row) => row.id === id)
  return found as (Row & RowFields) | undefined
}

function rowsOf(job: Job, table: RowTable): readonly Row[] {
  switch (table) {
    case 'job':
      return [job]
    case 'port':
      return job.devices.flatMap((device) => device.ports)
    case 'node':
      return job.devices.flatMap((device) => device.nodes)
    default:
      return job[LISTS[table]]
  }
}

const LISTS = {
  network: 'networks',
  line: 'lines',
  device: 'devices',
  kind: 'kinds',
  request: 'requests',
  acceptance: 'acceptances',
} as const

/**
 * What changes make of a job, as far as the page can tell before the server has answered. A row that is brought back
 * is known to the server alone and arrives with the next fetch.
 */
export function applyChanges(job: Job, changes: readonly Change[]): Job {
  let now = job
  for (let k = 0; k < changes.length;) {
    const run = addsFrom(changes, k)
    if (run.length > 1) now = applyAdds(now, run)
    else {
      const change = changes[k]
      if (change) now = applyChange(now, change)
    }
    k += Math.max(1, run.length)
  }
  return now
}

/** A new row. */
export type AddChange = Extract<Change, { op: 'add' }>

/** New rows that follow each other in a list: they can be taken together. */
export function addsFrom(changes: readonly Change[], from: number): readonly AddChange[] {
  const run: AddChange[] = []
  for (let k = from; k < changes.length; k += 1) {
    const change = changes[k]
    if (change?.op !== 'add') break
    run.push(change)
  }
  return run
}

/** Many new rows at once: a table of thousands would otherwise be copied thousands of times. */
function applyAdds(job: Job, run: readonly AddChange[]): Job {
  const ofDevice = new Map<unknown, AddChange[]>()
  const rows = new Map<RowTable, Row[]>()
  for (const change of run) {
    if (change.table === 'port' || change.table === 'node') {
      const known = ofDevice.get(change.fields.deviceId)
      if (known) known.push(change)
      else ofDevice.set(change.fields.deviceId, [change])
    } else {
      const known = rows.get(change.table) ?? []
      rows.set(change.table, known)
      known.push(newRow(change))
    }
  }
  const lists = Object.fromEntries(
    [...rows].flatMap(([table, added]) =>
      table === 'job' || table === 'port' || table === 'node'
        ? []
        : [[LISTS[table], [...(job[LISTS[table]] as readonly Row[]), ...added]]],
    ),
  )
  const next: Job = { ...job, ...lists }
  if (ofDevice.size === 0) return next
  return {
    ...next,
    devices: next.devices.map((device) => {
      const own = ofDevice.get(device.id)
      if (!own) return device
      const added = (table: RowTable) => own.filter((change) => change.table === table)
      return {
        ...device,
        ports: added('port').reduce<readonly Row[]>(changedRows, device.ports) as Device['ports'],
        nodes: added('node').reduce<readonly Row[]>(changedRows, device.nodes) as Device['nodes'],
      }
    }),
  }
}

function applyChange(job: Job, change: Change): Job {
  if (change.op === 'restore') return job
  const { table } = change
  if (table === 'job') return change.op === 'set' ? { ...job, ...change.fields, version: job.version + 1 } : job
  if (table === 'port' || table === 'node') {
    const list = table === 'port' ? 'ports' : 'nodes'
    const rows = (device: Device) => device[list] as readonly Row[]
    const holds = (device: Device) =>
      change.op === 'add' ? device.id === change.fields.deviceId : rows(device).some((row) => row.id === change.id)
    return {
      ...job,
      devices: job.devices.map((device) =>
        holds(device) ? { ...device, [list]: changedRows(rows(device), change) } : device,
      ),
    }
  }
  const list = LISTS[table]
  const next = { ...job, [list]: changedRows(job[list] as readonly Row[], change) }
  return table === 'device' && change.op === 'remove' ? withoutLinksTo(next, change.id) : next
}

/** What a new row has besides what was said of it. */
const NEW_ROW: Readonly<Partial<Record<RowTable, RowFields>>> = {
  device: { ports: [], nodes: [] },
  acceptance: { who: '', at: 0 },
}

function newRow({ table, id, fields: said }: AddChange): Row {
  const { deviceId: _deviceId, ...fields } = said
  return { ...NEW_ROW[table], ...fields, id, version: 1 }
}

function changedRows(rows: readonly Row[], change: Exclude<Change, { op: 'restore' }>): readonly Row[] {
  switch (change.op) {
    case 'set':
      return rows.map((row) => (row.id === change.id ? { ...row, ...change.fields, version: row.version + 1 } : row))
    case 'remove':
      return rows.filter((row) => row.id !== change.id)
    case 'add':
      return [...rows, newRow(change)]
  }
}

const withoutLinksTo = (job: Job, deviceId: string): Job => ({
  ...job,
  devices: job.devices.map((device) => (device.behindId === deviceId ? { ...device, behindId: null } : device)),
  handshakes: job.handshakes.filter((each) => each.controllerId !== deviceId && each.deviceId !== deviceId),
})

/** Rows by table and id, looked up many times while changes are followed one by one. */
function lookInto(job: Job) {
  const tables = new Map<RowTable, Map<string, Row & RowFields>>()
  const rowsById = (table: RowTable) => {
    const known = tables.get(table)
    if (known) return known
    const made = new Map(rowsOf(job, table).map((row) => [row.id, row as Row & RowFields]))
    tables.set(table, made)
    return made
  }
  return {
    row: (table: RowTable, id: string) => rowsById(table).get(id),
    follow: (change: Change) => {
      const rows = rowsById(change.table)
      const row = rows.get(change.id)
      if (change.op === 'remove') rows.delete(change.id)
      else if (change.op === 'set' && row) rows.set(change.id, { ...row, ...change.fields, version: row.version + 1 })
    },
  }
}

/** The way back of one change. `expect` is what must stand there still, for the way back to be right. */
type StepBack =
  | {
      readonly op: 'set'
      readonly table: RowTable
      readonly id: string
      readonly fields: RowFields
      readonly expect: RowFields
    }
  | { readonly op: 'remove'; readonly table: RowTable; readonly id: string }
  | { readonly op: 'restore'; readonly table: RowTable; readonly id: string }

export type WayBack = readonly StepBack[]

/** How changes are taken back, made from the job as it stands before them. */
export function wayBackOf(before: Job, changes: readonly Change[]): WayBack {
  const rows = lookInto(before)
  const added = new Set<string>()
  const steps: StepBack[] = []
  for (const change of changes) {
    const { table, id } = change
    // A row that is added here goes as a whole; what is changed of it meanwhile needs no way back of its own.
    if (change.op === 'add') {
      added.add(id)
      // A port goes and comes with its device.
      if (added.has(String(change.fields.deviceId))) continue
    } else if (added.has(id)) continue
    if (change.op === 'add' || change.op === 'restore') steps.push({ op: 'remove', table, id })
    else if (change.op === 'remove') steps.push({ op: 'restore', table, id })
    else {
      const row = rows.row(table, id)
      const fields = Object.fromEntries(Object.keys(change.fields).map((name) => [name, row?.[name]]))
      steps.push({ op: 'set', table, id, fields, expect: change.fields })
    }
    rows.follow(change)
  }
  return steps.reverse()
}

/**
 * The way back as changes of the job as it stands now. Refused when somebody has changed one of the rows since: then
 * nothing is taken back, and the row is named.
 */
export function changesBack(job: Job, way: WayBack): Result<readonly Change[]> {
  const changes: Change[] = []
  const rows = lookInto(job)
  for (const step of way) {
    const { table, id } = step
    if (step.op === 'restore') {
      changes.push({ op: 'restore', table, id })
      continue
    }
    const row = rows.row(table, id)
    if (!row) return gone(table)
    if (step.op === 'remove') changes.push({ op: 'remove', table, id, version: row.version })
    else {
      const other = Object.keys(step.expect).find((name) => !same(row[name], step.expect[name]))
      if (other !== undefined) return changedSince(row, other, step.expect[other])
      changes.push({ op: 'set', table, id, version: row.version, fields: step.fields })
    }
    const last = changes.at(-1)
    if (last) rows.follow(last)
  }
  return ok(changes)
}

const same = (a: unknown, b: unknown) => a === b || JSON.stringify(a) === JSON.stringify(b)
const gone = (table: RowTable) =>
  refusal('undo.gone', `The ${table} is not there any more, so this cannot be taken back.`, 'nothing', `the ${table}`)

function changedSince(row: RowFields, field: string, expected: unknown): Result<never> {
  const name = String(row.tag ?? row.name ?? 'the row')
  return refusal(
    'undo.changed',
    `Somebody changed ${name} since (${field}); what they wrote stays.`,
    String(row[field] ?? 'blank'),
    String(expected ?? 'blank'),
  )
}

import type { Fields, RowTable } from './field'
import { deviceFields, lineFields, networkFields, nodeFields, portFields } from './lineUpRows'
import {
  acceptanceFields,
  handshakeFields,
  jobFields,
  kindFields,
  pointFields,
  requestFields,
  standingFields,
  termFields,
} from './planRows'

/** A row of any table, as far as all of them are alike. */
export interface AnyRow {
  readonly id: string
  readonly version: number
  readonly [field: string]: unknown
}

/** One kind of row: where it lies in a job, what stands in it, how the log calls it. */
export interface RowKind {
  readonly table: RowTable
  /** What it is called: `There is no such device`. */
  readonly name: string
  /** The row that holds it, and the list there. */
  readonly owner: 'none' | 'job' | 'device' | 'handshake'
  readonly list: string
  readonly fields: Fields
  /** Fields by which a list of them is sorted; what is left equal goes by id. */
  readonly order: readonly string[]
  /** How the log calls one: `Device PD-101`. */
  readonly say: (row: AnyRow) => string
  /** Lists that lie inside one. */
  readonly holds: readonly string[]
  /** Who added it, and when, is written into it. */
  readonly stamped?: boolean
}

export const rowKinds: Readonly<Record<RowTable, RowKind>> = {
  job: {
    table: 'job',
    name: 'job',
    owner: 'none',
    list: '',
    fields: jobFields,
    order: [],
    say: (row) => `Job ${row.name}`,
    holds: [],
  },
  network: {
    table: 'network',
    name: 'network',
    owner: 'job',
    list: 'networks',
    fields: networkFields,
    order: ['name'],
    say: (row) => `Network ${row.name}`,
    holds: [],
  },
  line: {
    table: 'line',
    name: 'line',
    owner: 'job',
    list: 'lines',
    fields: lineFields,
    order: ['name'],
    say: (row) => `Line ${row.name}`,
    holds: [],
  },
  kind: {
    table: 'kind',
    name: 'kind',
    owner: 'job',
    list: 'kinds',
    fields: kindFields,
    order: [],
    say: (row) => `Kind ${(row.facts as { readonly name: string }).name}`,
    holds: [],
  },
  device: {
    table: 'device',
    name: 'device',
    owner: 'job',
    list: 'devices',
    fields: deviceFields,
    order: ['position', 'tag'],
    say: (row) => `Device ${row.tag}`,
    holds: ['ports', 'nodes'],
  },
  port: {
    table: 'port',
    name: 'port',
    owner: 'device',
    list: 'ports',
    fields: portFields,
    order: ['name'],
    say: (row) => `port ${row.name}`,
    holds: [],
  },
  node: {
    table: 'node',
    name: 'node',
    owner: 'device',
    list: 'nodes',
    fields: nodeFields,
    order: ['name'],
    say: (row) => (row.name === '' ? 'node' : `node ${row.name}`),
    holds: [],
  },
  request: {
    table: 'request',
    name: 'request',
    owner: 'job',
    list: 'requests',
    fields: requestFields,
    order: ['askedOn'],
    say: (row) => `Request "${row.what}"`,
    holds: [],
  },
  acceptance: {
    table: 'acceptance',
    name: 'acceptance',
    owner: 'job',
    list: 'acceptances',
    fields: acceptanceFields,
    order: ['at'],
    say: (row) => `Acceptance of ${row.rule}`,
    holds: [],
    stamped: true,
  },
  standing: {
    table: 'standing',
    name: 'standing of a term',
    owner: 'job',
    list: 'standings',
    fields: standingFields,
    order: ['at'],
    say: (row) => `${row.termId} at the ${row.end} end, ${row.standing}`,
    holds: [],
    stamped: true,
  },
  handshake: {
    table: 'handshake',
    name: 'handshake',
    owner: 'job',
    list: 'handshakes',
    fields: handshakeFields,
    order: ['position'],
    say: (row) => `Handshake ${row.name}`,
    holds: ['terms', 'points', 'decisions'],
  },
  term: {
    table: 'term',
    name: 'term',
    owner: 'handshake',
    list: 'terms',
    fields: termFields,
    order: ['termId', 'end'],
    say: (row) => `${row.termId} at the ${row.end} end`,
    holds: [],
  },
  point: {
    table: 'point',
    name: 'point',
    owner: 'handshake',
    list: 'points',
    fields: pointFields,
    order: ['position', 'tag'],
    say: (row) => `point ${row.tag}`,
    holds: [],
  },
}

/** All tables, those first whose rows others hang on. */
export const rowTables: readonly RowTable[] = [
  'job',
  'network',
  'line',
  'kind',
  'device',
  'port',
  'node',
  'request',
  'acceptance',
  'standing',
  'handshake',
  'term',
  'point',
]

/** The field that names the row which holds one: `deviceId` of a port. */
export const ownerField = ({ owner }: RowKind): 'deviceId' | 'handshakeId' | undefined =>
  owner === 'device' ? 'deviceId' : owner === 'handshake' ? 'handshakeId' : undefined

/** Rows in the order of their kind. Texts go by their code points, as everywhere a computer sorts names of this kind. */
export function inOrder<T extends { readonly id: string }>(kind: RowKind, rows: readonly T[]): readonly T[] {
  const fields = [...kind.order, 'id']
  return [...rows].sort((a, b) => {
    for (const name of fields) {
      const [one, other] = [(a as Record<string, unknown>)[name], (b as Record<string, unknown>)[name]]
      const sign = compare(one, other)
      if (sign !== 0) return sign
    }
    return 0
  })
}

function compare(one: unknown, other: unknown): number {
  if (one === other) return 0
  // What stands open comes first, as it does in the database.
  if (one === null || one === undefined) return -1
  if (other === null || other === undefined) return 1
  return (one as string) < (other as string) ? -1 : 1
}

/** The newest version of the job file in which one of the fields came. */
export const newestField = Math.max(
  ...Object.values(rowKinds).flatMap(({ fields }) => Object.values(fields).map(({ since }) => since)),
)

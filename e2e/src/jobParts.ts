import { randomUUID } from 'node:crypto'
import type { talk } from './app'

type Talk = ReturnType<typeof talk>

export interface JobHere {
  readonly id: string
  readonly name: string
  readonly devices: readonly { readonly id: string; readonly tag: string }[]
  readonly networks: readonly { readonly id: string; readonly cidr: string }[]
}

type Fields = Readonly<Record<string, string | number | null>>

const add = (table: string, fields: object, id: string = randomUUID()) => ({ op: 'add', table, id, fields })

/** Rows of a job, as changes that add them. */
export const rows = {
  device: (id: string, fields: Fields & { readonly tag: string; readonly kind: string }) =>
    add('device', { position: 90, what: fields.tag, ...fields }, id),
  port: (deviceId: string, networkId: string, address: string) =>
    add('port', { deviceId, name: 'Ethernet', networkId, address }),
  line: (id: string, fields: { readonly name: string; readonly medium: string; readonly family: string }) =>
    add('line', { settings: '', laptopPort: '', timeoutMs: null, retries: null, gatewayMs: null, ...fields }, id),
  node: (deviceId: string, lineId: string, node: number | null, isMaster = false) =>
    add('node', { deviceId, lineId, name: '', node, isMaster }),
}

/** The job of the rehearsal as it is. */
export async function rehearsal({ get }: Pick<Talk, 'get'>): Promise<JobHere> {
  const jobs = await get<readonly JobHere[]>('/jobs')
  return get<JobHere>(`/jobs/${jobs.find(({ name }) => name.includes('rehearsal'))?.id ?? ''}`)
}

/** Adds rows to the rehearsal and leaves the given devices out of its order. */
export async function addToRehearsal({ get, send }: Talk, changes: readonly object[], leftOut: readonly string[]) {
  const { id } = await rehearsal({ get })
  await send('POST', `/jobs/${id}/changes`, { changes })
  const { version, settings } = await get<{ readonly version: number; readonly settings: object }>(`/jobs/${id}/walk`)
  await send('PUT', `/jobs/${id}/walk/settings`, { version, settings: { ...settings, leftOut } })
  return id
}

import { randomUUID } from 'node:crypto'
import { changeElsewhere, type RunningApp, type talk } from './app'

type Talk = ReturnType<typeof talk>

export interface JobHere {
  readonly id: string
  readonly name: string
  readonly devices: readonly { readonly id: string; readonly tag: string; readonly version: number }[]
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

/** What the rehearsal is to be before it is walked. */
interface Walked {
  /** Who is walked; all others are left out. */
  readonly tags: readonly string[]
  readonly changed: { readonly tag: string; readonly fields: Fields }
  /** Whether the breaker of the boxes has power already. */
  readonly isLive: boolean
}

/** The rehearsal with a few boxes to walk, and the laptop in their network. @returns the job's id */
export async function rehearsalOf(app: RunningApp, { get, send }: Talk, walked: Walked): Promise<string> {
  const { id, devices } = await rehearsal({ get })
  const device = devices.find(({ tag }) => tag === walked.changed.tag)
  if (device) await changeElsewhere(app, id, 'device', device, walked.changed.fields)
  const { version, settings } = await get<{ readonly version: number; readonly settings: object }>(`/jobs/${id}/walk`)
  const leftOut = devices.filter(({ tag }) => !walked.tags.includes(tag)).map((each) => each.id)
  await send('PUT', `/jobs/${id}/walk/settings`, {
    version,
    settings: { ...settings, leftOut, groups: { Q5: { live: walked.isLive } } },
  })
  await laptopAt({ send }, '10.20.40.5')
  return id
}

/** Sets the laptop's address at the bench. */
export const laptopAt = ({ send }: Pick<Talk, 'send'>, address: string): Promise<void> =>
  send('PUT', '/bench-laptop', { addresses: [{ address, prefix: 24 }], cable: 'switch', speed: 100 })

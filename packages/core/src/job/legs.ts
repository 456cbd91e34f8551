import { termDefinition, type Clasp, type ClaspRow } from '../terms'
import { deviceOf } from './deviceOf'
import type { Handshake, Job } from './model'

/** One leg of the way between the two ends, with its terms. */
export interface Leg {
  /** `PLC-101 – GW-201`; blank for what passes through unchanged. */
  readonly name: string
  readonly rows: readonly ClaspRow[]
  readonly agreeing: number
}

/**
 * The legs of a handshake that goes through a gateway: what controller and gateway must agree in, what gateway and
 * device must, and what the gateway passes through unchanged. Empty where nothing lies between the ends.
 */
export function legsOf(job: Job, handshake: Handshake, clasp: Pick<Clasp, 'rows'>): readonly Leg[] {
  const [controller, device] = [deviceOf(job, handshake.controllerId), deviceOf(job, handshake.deviceId)]
  const gateway =
    device && device.ports.length === 0 && device.behindId !== null ? deviceOf(job, device.behindId) : undefined
  if (!controller || !device || !gateway) return []
  const legs: Record<'near' | 'far' | 'through', ClaspRow[]> = { near: [], far: [], through: [] }
  for (const row of clasp.rows) legs[legOf(row)].push(row)
  const leg = (name: string, rows: readonly ClaspRow[]): Leg => ({
    name,
    rows,
    agreeing: rows.filter(({ state }) => state === 'equal' || state === 'fits').length,
  })
  return [
    leg(`${controller.tag} – ${gateway.tag}`, legs.near),
    leg(`${gateway.tag} – ${device.tag}`, legs.far),
    leg('', legs.through),
  ].filter(({ rows }) => rows.length > 0)
}

/** On which leg a term is agreed: the unit and everything of the line behind the gateway, the rest to reach it before. */
function legOf({ id }: ClaspRow): 'near' | 'far' | 'through' {
  const { group } = termDefinition(id)
  if (group === 'line' || id === 'unit-id' || id === 'node' || id === 'variant') return 'far'
  return group === 'reach' ? 'near' : 'through'
}

import { termDefinition, type Clasp, type ClaspRow, type TermId } from '../terms'
import { deviceOf } from './deviceOf'
import type { Handshake, Job, Line } from './model'
import { lineOf } from './serialLine'

/** One leg of the way between the two ends, with its terms. */
export interface Leg {
  /** `PLC-101 – GW-201`; blank for what passes through unchanged. */
  readonly name: string
  readonly rows: readonly ClaspRow[]
  readonly agreeing: number
  /** What the one that asks on this leg waits, in words; blank where nobody says it. */
  readonly waits: string
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
  const leg = (name: string, rows: readonly ClaspRow[], waits = ''): Leg => ({
    name,
    rows,
    waits,
    agreeing: rows.filter(({ state }) => state === 'equal' || state === 'fits').length,
  })
  return [
    leg(`${controller.tag} – ${gateway.tag}`, legs.near, said(controllerWaits(clasp))),
    leg(`${gateway.tag} – ${device.tag}`, legs.far, said(lineWaits(lineOf(job, handshake)))),
    leg('', legs.through),
  ].filter(({ rows }) => rows.length > 0)
}

const sayTries = (retries: number) => `${retries} more ${retries === 1 ? 'try' : 'tries'}`

const said = (parts: readonly string[]) => parts.join(', ')

/** What the controller waits for an answer of the gateway, and how often it asks again, as the terms say. */
function controllerWaits({ rows }: Pick<Clasp, 'rows'>): readonly string[] {
  const shown = (id: TermId) => {
    const reading = rows.find((row) => row.id === id)?.ends.controller
    return reading?.state === 'read' ? reading.shown : undefined
  }
  const [timeout, retries] = [shown('timeout'), shown('retries')]
  return [
    ...(timeout === undefined ? [] : [`waits ${timeout}`]),
    ...(retries === undefined ? [] : [sayTries(Number(retries))]),
  ]
}

/** What the gateway waits for a unit, as the line says. */
function lineWaits(line: Line | undefined): readonly string[] {
  if (!line) return []
  const { timeoutMs, retries, gatewayMs } = line
  return [
    ...(timeoutMs === null ? [] : [`waits ${timeoutMs} ms`]),
    ...(retries === null ? [] : [sayTries(Number(retries))]),
    ...(gatewayMs === null ? [] : [`${gatewayMs} ms of its own`]),
  ]
}

/** On which leg a term is agreed: the unit and everything of the line behind the gateway, the rest to reach it before. */
function legOf({ id }: ClaspRow): 'near' | 'far' | 'through' {
  const { group } = termDefinition(id)
  if (group === 'line' || id === 'unit-id' || id === 'node' || id === 'variant') return 'far'
  return group === 'reach' ? 'near' : 'through'
}

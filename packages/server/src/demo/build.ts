import { randomUUID } from 'node:crypto'
import {
  blankPath,
  basisOf,
  blankDevice,
  blankPort,
  handshakeTermsOf,
  type Device,
  type DeviceNode,
  type Handshake,
  type Job,
  type Line,
  type Network,
  type Point,
  type School,
  type StoredDecision,
  type Term,
} from '@calm/core/job'
import { textFact, type Evidence } from '@calm/core/evidence'
import { rungFacts, type Rung } from '@calm/core/ladder'
import type { Notation } from '@calm/core/modbus'
import type { Exchange, TermId } from '@calm/core/terms'
import { instant } from '@calm/core/units'

/** Short ways to write a sample job down. Everything in it is made up. */
export const row = () => ({ id: randomUUID(), version: 1 })

export function network(
  fields: Omit<Network, 'id' | 'version' | 'school'> & Partial<Pick<Network, 'school'>>,
): Network {
  return { ...row(), school: 'static', ...fields }
}

export interface DeviceLine {
  readonly tag: string
  readonly what: string
  readonly kind: string
  readonly network?: Network
  readonly address?: string
  readonly unitId?: number
  readonly asFound: string
  readonly behind?: Device
  readonly note?: string
  /** What else is known of it. */
  readonly more?: Partial<Omit<Device, 'id' | 'version'>>
  readonly mac?: string
  readonly school?: School
}

export function device(line: DeviceLine, position: number): Device {
  return {
    ...row(),
    ...blankDevice,
    position,
    nodes: [],
    ...line.more,
    tag: line.tag,
    what: line.what,
    kind: line.kind,
    behindId: line.behind?.id ?? null,
    unitId: line.unitId ?? null,
    asFound: line.asFound,
    note: line.note ?? '',
    ports: line.network
      ? [
          {
            ...row(),
            ...blankPort,
            networkId: line.network.id,
            address: line.address ?? null,
            gateway: line.network.gateway,
            mac: line.mac ?? null,
            school: line.school ?? null,
          },
        ]
      : [],
  }
}

/** A term as `[id, controller end, device end]`; a text may carry its notation after a bar: `30001|five-digit`. */
export type TermLine = readonly [TermId, string, string?]

function terms(
  lines: readonly TermLine[],
  origins: { readonly controller: string; readonly device: string },
): readonly Term[] {
  const one = (termId: TermId, end: 'controller' | 'device', text: string | undefined): readonly Term[] => {
    if (text === undefined || text === '') return []
    const [plain = '', notation] = text.split('|')
    return [
      {
        ...row(),
        termId,
        end,
        text: plain,
        notation: (notation as Notation | undefined) ?? null,
        origin: origins[end],
        places: [],
      },
    ]
  }
  return lines.flatMap(([id, controller, device]) => [
    ...one(id, 'controller', controller),
    ...one(id, 'device', device),
  ])
}

interface HandshakeLine {
  readonly controller: Device
  readonly device: Device
  /** How they speak; Modbus where nothing is said. */
  readonly exchange?: Exchange
  readonly terms: readonly TermLine[]
  readonly manual: string
  readonly mirrors?: Handshake['mirrors']
  readonly point: PointLine
  /** What else is read of the device, in places of its own. */
  readonly morePoints?: readonly PointLine[]
}

/** What the sample jobs leave to the data path. */
type PlannedLater = 'low' | 'high' | 'pollMs' | 'ageMs' | 'access' | 'moves' | 'updates' | 'sentFrom'

/** A point; where nothing else is said the terms say where it lies, and it has to be proven. */
export type PointLine = Omit<Point, 'id' | 'version' | 'position' | 'source' | 'asked' | PlannedLater> &
  Partial<Pick<Point, 'source' | 'asked'>>

export function handshake(line: HandshakeLine, position: number): Handshake {
  return {
    ...row(),
    position,
    name: `${line.controller.tag} to ${line.device.tag}`,
    controllerId: line.controller.id,
    deviceId: line.device.id,
    exchange: line.exchange ?? 'modbus',
    unreadable: '',
    alone: '',
    evenOnly: false,
    lastAddress: null,
    mirrors: line.mirrors ?? [],
    ...blankPath,
    terms: terms(line.terms, { controller: `program of ${line.controller.tag}`, device: line.manual }),
    points: [line.point, ...(line.morePoints ?? [])].map((point, k) => ({
      ...row(),
      source: null,
      asked: true,
      low: null,
      high: null,
      pollMs: null,
      ageMs: null,
      access: 'read' as const,
      moves: '',
      updates: '',
      sentFrom: null,
      ...point,
      position: k,
    })),
    decisions: [],
  }
}

export interface Seen {
  readonly rung: Rung
  readonly verdict: Evidence['verdict']
  readonly minutesAgo: number
  readonly how: Evidence['how']
  readonly value: string
}

/** Adds evidence that rests on the job as it stands, so that none of it is stale; each piece about what its rung is about. */
export function withEvidence(job: Job, tag: string, who: string, now: number, seen: readonly Seen[]): Job {
  const deviceId = job.devices.find((each) => each.tag === tag)?.id
  const handshake = job.handshakes.find((each) => each.deviceId === deviceId)
  if (!handshake) return job
  const [point] = handshake.points
  const evidence = seen.map(({ minutesAgo, value, ...content }): Evidence => {
    const { about } = rungFacts(content.rung)
    const of = about === 'point' ? point : undefined
    const kind = about === 'point' && !of ? 'handshake' : about
    const id = kind === 'device' ? handshake.deviceId : (of?.id ?? handshake.id)
    return {
      ...content,
      id: randomUUID(),
      subject: { kind, id },
      who,
      at: instant(now - minutesAgo * 60_000),
      mode: job.mode,
      facts: [textFact(value)],
      basis: basisOf(handshakeTermsOf(job, handshake), of),
    }
  })
  return { ...job, evidence: [...job.evidence, ...evidence].sort((a, b) => a.at - b.at) }
}

export function withDecision(job: Job, tag: string, decision: Omit<StoredDecision, 'id'>): Job {
  return changeHandshake(job, tag, (each) => ({
    ...each,
    decisions: [...each.decisions, { ...decision, id: randomUUID() }],
  }))
}

function changeHandshake(job: Job, tag: string, change: (handshake: Handshake) => Handshake): Job {
  const deviceId = job.devices.find((each) => each.tag === tag)?.id
  return { ...job, handshakes: job.handshakes.map((each) => (each.deviceId === deviceId ? change(each) : each)) }
}

/** What a job has none of yet. */
export const nothingYet: Pick<
  Job,
  'addressRules' | 'lines' | 'kinds' | 'requests' | 'acceptances' | 'standings' | 'evidence'
> = {
  evidence: [],
  addressRules: [],
  lines: [],
  kinds: [],
  requests: [],
  acceptances: [],
  standings: [],
}

/** A line, or one place of a device on it. */
export const line = (
  fields: Omit<Line, 'id' | 'version' | 'laptopPort' | 'timeoutMs' | 'retries' | 'gatewayMs'>,
): Line => ({
  ...row(),
  laptopPort: '',
  timeoutMs: null,
  retries: null,
  gatewayMs: null,
  ...fields,
})
export const node = (on: Line, number: number | null, more: Partial<DeviceNode> = {}): DeviceNode => ({
  ...row(),
  lineId: on.id,
  name: '',
  node: number,
  isMaster: false,
  ...more,
})

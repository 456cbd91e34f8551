import { randomUUID } from 'node:crypto'
import {
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
  type StoredEvidence,
  type Term,
} from '@calm/core/job'
import type { Rung } from '@calm/core/ladder'
import type { Notation } from '@calm/core/modbus'
import type { TermId } from '@calm/core/terms'
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
    if (text === undefined) return []
    const [plain = '', notation] = text.split('|')
    return [
      {
        ...row(),
        termId,
        end,
        text: plain,
        notation: (notation as Notation | undefined) ?? null,
        origin: origins[end],
      },
    ]
  }
  return lines.flatMap(([id, controller, device]) => [
    ...one(id, 'controller', controller),
    ...one(id, 'device', device),
  ])
}

export interface HandshakeLine {
  readonly controller: Device
  readonly device: Device
  readonly terms: readonly TermLine[]
  readonly manual: string
  readonly point: Omit<Point, 'id' | 'version'>
}

export function handshake(line: HandshakeLine, position: number): Handshake {
  return {
    ...row(),
    position,
    name: `${line.controller.tag} to ${line.device.tag}`,
    controllerId: line.controller.id,
    deviceId: line.device.id,
    terms: terms(line.terms, { controller: `program of ${line.controller.tag}`, device: line.manual }),
    points: [{ ...row(), ...line.point }],
    evidence: [],
    decisions: [],
  }
}

export interface Seen {
  readonly rung: Rung
  readonly verdict: StoredEvidence['verdict']
  readonly minutesAgo: number
  readonly how: StoredEvidence['how']
  readonly value: string
}

/** Adds evidence that rests on the job as it stands, so that none of it is stale. */
export function withEvidence(job: Job, tag: string, who: string, now: number, seen: readonly Seen[]): Job {
  return changeHandshake(job, tag, (each) => ({
    ...each,
    evidence: [
      ...each.evidence,
      ...seen.map(({ minutesAgo, ...content }): StoredEvidence => ({
        ...content,
        id: randomUUID(),
        who,
        at: instant(now - minutesAgo * 60_000),
        mode: job.mode,
        detail: [],
        basis: basisOf(handshakeTermsOf(job, each), each.points[0]),
      })),
    ],
  }))
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
export const nothingYet: Pick<Job, 'addressRules' | 'lines' | 'kinds' | 'requests' | 'acceptances'> = {
  addressRules: [],
  lines: [],
  kinds: [],
  requests: [],
  acceptances: [],
}

/** A line, or one place of a device on it. */
export const line = (fields: Omit<Line, 'id' | 'version'>): Line => ({ ...row(), ...fields })
export const node = (on: Line, number: number | null, more: Partial<DeviceNode> = {}): DeviceNode => ({
  ...row(),
  lineId: on.id,
  name: '',
  node: number,
  isMaster: false,
  ...more,
})

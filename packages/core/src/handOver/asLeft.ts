import { deviceFields, deviceOf, termContextOf, type Device, type Job, type ValuesOf } from '../job'
import { kindFacts } from '../kind'
import { rungStateWords } from '../ladder'
import type { WalkRecord } from '../procedure'
import { claspOf, type EndReading } from '../terms'
import { readinessOf } from './readiness'
import { recordedPoints, seenBy } from './recordedPoints'

const AS_IT_STANDS = 'as it stands, not ready to hand over'
const READY_WITH_KNOWN = 'as it stands: nothing open, some of it parked or let stand'

/** What a record is made of. */
interface RecordSource {
  readonly job: Job
  /** What first contact keeps: what waits, what was left, what was seen otherwise. */
  readonly walk: WalkRecord
  readonly madeAt: number
  /** The seal of the newest log entry, and whether every seal before it holds. */
  readonly logHash: string
  readonly logWhole: boolean
}

/** The one as-left record: page, print, JSON and CSV are all drawn from it, so that they cannot differ. */
export function asLeftRecord({ job, walk, madeAt, logHash, logWhole }: RecordSource) {
  const readiness = readinessOf(job, walk)
  const isReady = readiness.open.length === 0
  return {
    format: 'calm-handshake-record',
    version: 4,
    madeAt: new Date(madeAt).toISOString(),
    job: { name: job.name, place: job.place, mode: job.mode },
    readyToHandOver: isReady,
    /** What it is, in words: with anything open or decided otherwise it is a record as things stand. */
    state: isReady ? (readiness.known.length === 0 ? 'ready to hand over' : READY_WITH_KNOWN) : AS_IT_STANDS,
    open: readiness.open.map(({ say }) => say),
    known: readiness.known.map(({ say }) => say),
    pointsProven: readiness.points.proven,
    pointsToProve: readiness.points.of,
    logHash,
    logWhole,
    networks: job.networks.map(({ name, cidr, gateway, vlan, dhcp, reserved }) => ({
      name,
      cidr,
      gateway,
      vlan,
      dhcp,
      reserved,
    })),
    lines: job.lines.map(({ name, medium, family, settings }) => ({ name, medium, family, settings })),
    devices: job.devices.map((device) => ({
      tag: device.tag,
      ...recordedFields(device),
      kind: kindFacts(device.kind, job.kinds).name,
      behind: device.behindId === null ? null : (deviceOf(job, device.behindId)?.tag ?? null),
      unitId: device.unitId,
      orderCode: device.orderCodeFound || device.orderCode,
      firmware: device.firmwareFound,
      nodes: device.nodes.map((node) => ({
        line: job.lines.find((line) => line.id === node.lineId)?.name ?? '',
        name: node.name,
        node: node.node,
        isMaster: node.isMaster,
      })),
      ports: device.ports.map(({ name, address, gateway, tcpPort, mac }) => ({ name, address, gateway, tcpPort, mac })),
    })),
    handshakes: readiness.ladders.map(({ handshake, ladder }) => ({
      name: handshake.name,
      terms: claspOf(termContextOf(job, handshake)).rows.map((row) => ({
        term: row.name,
        controller: shownAt(row.ends.controller),
        device: shownAt(row.ends.device),
        state: row.state,
      })),
      rungs: ladder.rungs.map((rung) => ({
        rung: rung.name,
        state: rungStateWords[rung.state],
        because: rung.because,
        missing: rung.missing,
        ...seenBy(rung.evidence),
      })),
      points: recordedPoints(job, handshake, ladder),
    })),
    letStand: job.acceptances.map(({ rule, found, reason, who, at }) => ({
      rule,
      found,
      reason,
      who,
      at: new Date(at).toISOString(),
    })),
    askedOfOthers: job.requests.map(({ what, toWhom, askedOn, dueOn, answer, answeredOn }) => ({
      what,
      toWhom,
      askedOn,
      dueOn,
      answer,
      answeredOn,
    })),
    ledger: readiness.ledger.map(({ kind, what, putBack, who, at, backBy, backAt }) => ({
      kind,
      what,
      putBack,
      who,
      at: new Date(at).toISOString(),
      backBy,
      backAt: backAt === null ? null : new Date(backAt).toISOString(),
    })),
  }
}

type DeviceFields = typeof deviceFields

/** The fields of a device whose definition says that they stand in the record, as they are. */
const recordedFields = (device: Device): Partial<ValuesOf<DeviceFields>> =>
  Object.fromEntries(
    Object.entries(deviceFields).flatMap(([name, field]) =>
      'inRecord' in field && field.inRecord ? [[name, device[name as keyof DeviceFields]]] : [],
    ),
  )

export type AsLeftRecord = ReturnType<typeof asLeftRecord>

/** What an end says, as it is shown; what cannot be read stands as it was typed. */
function shownAt(reading: EndReading): string {
  switch (reading.state) {
    case 'blank':
      return ''
    case 'read':
      return reading.shown
    case 'refused':
      return reading.entry.text
  }
}

import { deviceFields, deviceOf, termContextOf, type Device, type Job, type ValuesOf } from '../job'
import { kindFacts } from '../kind'
import { howWords, sayEvidence, sayEvidenceInFull, type Evidence } from '../evidence'
import { rungStateWords, type PointOnRung } from '../ladder'
import type { TemporaryThing } from '../procedure'
import { claspOf, type EndReading } from '../terms'
import { readinessOf } from './readiness'

/** What a record is made of. */
interface RecordSource {
  readonly job: Job
  readonly temporary: readonly TemporaryThing[]
  readonly madeAt: number
  /** The seal of the newest log entry, and whether every seal before it holds. */
  readonly logHash: string
  readonly logWhole: boolean
}

/** The one as-left record: page, print, JSON and CSV are all drawn from it, so that they cannot differ. */
export function asLeftRecord({ job, temporary, madeAt, logHash, logWhole }: RecordSource) {
  const readiness = readinessOf(job, temporary)
  return {
    format: 'calm-handshake-record',
    version: 3,
    madeAt: new Date(madeAt).toISOString(),
    job: { name: job.name, place: job.place, mode: job.mode },
    readyToHandOver: readiness.blocks.length === 0,
    open: readiness.blocks,
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
        points: rung.points.map(pointOnRecord),
      })),
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

/** Who saw it, when and how; all open where nobody did. */
const seenBy = (evidence: Evidence | undefined) => ({
  who: evidence?.who ?? null,
  at: evidence ? new Date(evidence.at).toISOString() : null,
  how: evidence ? howWords[evidence.how] : null,
  mode: evidence?.mode ?? null,
})

/** One point of a rung that asks for every point, with the facts that it was judged by. */
const pointOnRecord = ({ name, state, because, evidence }: PointOnRung) => ({
  point: name,
  state: pointWords[state],
  because,
  ...seenBy(evidence),
  said: evidence ? sayEvidence(evidence.facts) : null,
  detail: evidence ? sayEvidenceInFull(evidence.facts) : [],
  facts: evidence?.facts ?? [],
})

const pointWords: Readonly<Record<PointOnRung['state'], string>> = {
  proven: 'proven',
  'at-odds': 'at odds',
  changed: 'to be seen again',
  open: 'not seen yet',
}

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

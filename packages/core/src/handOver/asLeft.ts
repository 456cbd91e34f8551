import { deviceOf, termContextOf, type Job } from '../job'
import { kindFacts } from '../kind'
import { howWords, rungStateWords } from '../ladder'
import type { TemporaryThing } from '../procedure'
import { claspOf, type EndReading } from '../terms'
import { readinessOf } from './readiness'

/** What a record is made of. */
export interface RecordSource {
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
    version: 2,
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
      what: device.what,
      kind: kindFacts(device.kind, job.kinds).name,
      behind: device.behindId === null ? null : (deviceOf(job, device.behindId)?.tag ?? null),
      unitId: device.unitId,
      place: device.place,
      isolation: device.isolation,
      orderCode: device.orderCodeFound || device.orderCode,
      serialNumber: device.serialNumber,
      firmware: device.firmwareFound,
      hostName: device.hostName,
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
        who: rung.evidence?.who ?? null,
        at: rung.evidence ? new Date(rung.evidence.at).toISOString() : null,
        how: rung.evidence ? howWords[rung.evidence.how] : null,
        mode: rung.evidence ? (handshake.evidence.find((each) => each.id === rung.evidence?.id)?.mode ?? null) : null,
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

import { deviceOf, handshakeTermsOf, readinessOf, termContextOf, type Job } from '@calm/core/job'
import { kindFacts } from '@calm/core/kind'
import { howWords, rungStateWords } from '@calm/core/ladder'
import { claspOf, termDefinition, type TermId } from '@calm/core/terms'

/** The as-left record for machines. Print and CSV say the same. */
export function asLeftRecord(job: Job, madeAt: number, logHash: string) {
  const readiness = readinessOf(job)
  return {
    format: 'calm-handshake-record',
    version: 1,
    madeAt: new Date(madeAt).toISOString(),
    job: { name: job.name, place: job.place, mode: job.mode },
    readyToHandOver: readiness.blocks.length === 0,
    open: readiness.blocks,
    logHash,
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
        controller: textOf(job, handshake.id, row.id, 'controller'),
        device: textOf(job, handshake.id, row.id, 'device'),
        state: row.state,
      })),
      rungs: ladder.rungs.map((rung) => ({
        rung: rung.name,
        state: rungStateWords[rung.state],
        because: rung.because,
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
    forced: job.forced.map(({ where, value, who, at, releasedBy, releasedAt }) => ({
      where,
      value,
      who,
      at: new Date(at).toISOString(),
      releasedBy,
      releasedAt: releasedAt === null ? null : new Date(releasedAt).toISOString(),
    })),
  }
}

function textOf(job: Job, handshakeId: string, term: TermId, end: 'controller' | 'device'): string {
  const handshake = job.handshakes.find((each) => each.id === handshakeId)
  const terms = handshake ? handshakeTermsOf(job, handshake) : {}
  const entry = terms[term]?.[end]
  if (!entry) return ''
  const around = { terms, end }
  const parsed = termDefinition(term).parse(entry, around)
  return parsed.ok ? termDefinition(term).format(parsed.value, entry, around) : entry.text
}

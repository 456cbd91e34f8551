import type { EvidenceSubject } from '@calm/core/evidence'
import { isFromLineUp, type Job } from '@calm/core/job'
import { isKnownKind } from '@calm/core/kind'
import { shippedRuns, type WalkRecord } from '@calm/core/procedure'
import type { Problem } from '../problem'

/** One problem, at its path. */
type Tell = (where: string, what: string, expected: string, found: string) => void

/**
 * What a schema cannot see: ids that are used twice, links to rows that are not there, and what the program itself
 * would refuse (two devices with one tag, two handshakes of one pair). Every problem has its path.
 */
export function inconsistencies(job: Job, walk: WalkRecord): readonly Problem[] {
  const problems: Problem[] = []
  const tell: Tell = (where, what, expected, found) => problems.push({ what, where, expected, found })
  uniqueIds(job, walk, tell)
  linksOfLineUp(job, tell)
  namesOfLineUp(job, tell)
  handshakesFit(job, tell)
  subjectsThere(job, tell)
  walkFits(job, walk, tell)
  return problems
}

function uniqueIds(job: Job, walk: WalkRecord, tell: Tell): void {
  const seen = new Map<string, string>()
  const unique = (rows: readonly { readonly id: string }[], path: string) =>
    rows.forEach(({ id }, n) => {
      const where = `${path}[${n}].id`
      const before = seen.get(id)
      if (before !== undefined) tell(where, `The id is used twice, first at ${before}.`, 'an id of its own', id)
      seen.set(id, before ?? where)
    })
  for (const list of [
    'networks',
    'lines',
    'kinds',
    'requests',
    'acceptances',
    'standings',
    'devices',
    'handshakes',
    'forced',
    'evidence',
  ] as const)
    unique(job[list], `job.${list}`)
  job.devices.forEach((device, n) => {
    unique(device.ports, `job.devices[${n}].ports`)
    unique(device.nodes, `job.devices[${n}].nodes`)
  })
  job.handshakes.forEach((handshake, n) => {
    for (const list of ['terms', 'points', 'decisions'] as const)
      unique(handshake[list], `job.handshakes[${n}].${list}`)
  })
  for (const list of ['steps', 'facts', 'temporary', 'runs'] as const) unique(walk[list], `firstContact.${list}`)
}

const idsOf = (rows: readonly { readonly id: string }[]): ReadonlySet<string> => new Set(rows.map((row) => row.id))

function linksOfLineUp(job: Job, tell: Tell): void {
  const [networks, lines, devices] = [job.networks, job.lines, job.devices].map(idsOf)
  const needs = (known: ReadonlySet<string> | undefined, value: string | null, where: string, what: string) => {
    if (value !== null && !known?.has(value))
      tell(where, `There is no ${what} with this id.`, `the id of a ${what} in this file`, value)
  }
  job.devices.forEach((device, n) => {
    const at = `job.devices[${n}]`
    needs(devices, device.behindId, `${at}.behindId`, 'device')
    needs(devices, device.firmwareOfId, `${at}.firmwareOfId`, 'device')
    for (const name of ['behindId', 'firmwareOfId'] as const)
      if (device[name] === device.id)
        tell(`${at}.${name}`, 'A device cannot name itself here.', 'another device', device.id)
    device.ports.forEach((port, p) => needs(networks, port.networkId, `${at}.ports[${p}].networkId`, 'network'))
    device.nodes.forEach((node, p) => needs(lines, node.lineId, `${at}.nodes[${p}].lineId`, 'line'))
  })
  job.handshakes.forEach((handshake, n) => {
    needs(devices, handshake.controllerId, `job.handshakes[${n}].controllerId`, 'device')
    needs(devices, handshake.deviceId, `job.handshakes[${n}].deviceId`, 'device')
  })
  job.requests.forEach((request, n) =>
    request.deviceIds.forEach((id, k) => needs(devices, id, `job.requests[${n}].deviceIds[${k}]`, 'device')),
  )
}

/** Names that must be there once only. */
function once(values: readonly string[], path: (n: number) => string, what: string, tell: Tell): void {
  const seen = new Map<string, number>()
  values.forEach((value, n) => {
    const before = seen.get(value)
    if (before === undefined) seen.set(value, n)
    else tell(path(n), `There is ${what} "${value}" already, at ${path(before)}.`, 'one of its own', value)
  })
}

function namesOfLineUp(job: Job, tell: Tell): void {
  const tags = job.devices.map((device) => device.tag)
  once(tags, (n) => `job.devices[${n}].tag`, 'a device', tell)
  const lines = job.lines.map((line) => line.name)
  once(lines, (n) => `job.lines[${n}].name`, 'a line', tell)
  const kinds = job.kinds.map((kind) => kind.facts.id)
  once(kinds, (n) => `job.kinds[${n}].facts.id`, 'a kind', tell)
  kinds.forEach((id, n) => {
    if (isKnownKind(id, []))
      tell(`job.kinds[${n}].facts.id`, `The kind "${id}" ships with the program.`, 'an id of its own', id)
  })
  job.devices.forEach((device, n) => {
    if (!isKnownKind(device.kind, job.kinds))
      tell(
        `job.devices[${n}].kind`,
        `There is no kind ${device.kind} here.`,
        'a kind that ships, or one of this file',
        device.kind,
      )
  })
}

function handshakesFit(job: Job, tell: Tell): void {
  const pairs = job.handshakes.map((handshake) => `${handshake.controllerId} ${handshake.deviceId}`)
  once(pairs, (n) => `job.handshakes[${n}].deviceId`, 'a handshake of the pair', tell)
  job.handshakes.forEach((handshake, n) => {
    const at = `job.handshakes[${n}]`
    if (handshake.controllerId === handshake.deviceId)
      tell(`${at}.deviceId`, 'Both ends are one device.', 'two devices', handshake.deviceId)
    const places = handshake.terms.map((term) => `${term.termId} of the ${term.end} end`)
    once(places, (k) => `${at}.terms[${k}]`, 'a term', tell)
    handshake.terms.forEach((term, k) => {
      if (isFromLineUp(term.termId, term.end))
        tell(`${at}.terms[${k}].termId`, 'The line-up holds this term.', 'a term that is not held there', term.termId)
    })
  })
}

/** Evidence is about something of this job, and of the kind that it says. */
function subjectsThere(job: Job, tell: Tell): void {
  const of: Readonly<Record<EvidenceSubject['kind'], ReadonlySet<string>>> = {
    job: idsOf([job]),
    network: idsOf(job.networks),
    line: idsOf(job.lines),
    device: idsOf(job.devices),
    port: idsOf(job.devices.flatMap((device) => device.ports)),
    handshake: idsOf(job.handshakes),
    point: idsOf(job.handshakes.flatMap((handshake) => handshake.points)),
  }
  job.evidence.forEach(({ subject }, n) => {
    if (!of[subject.kind].has(subject.id))
      tell(
        `job.evidence[${n}].subject.id`,
        `There is no ${subject.kind} with this id.`,
        `the id of a ${subject.kind} in this file`,
        subject.id,
      )
  })
}

function walkFits(job: Job, walk: WalkRecord, tell: Tell): void {
  const devices = idsOf(job.devices)
  walk.facts.forEach((fact, n) => {
    if (!devices.has(fact.deviceId))
      tell(
        `firstContact.facts[${n}].deviceId`,
        'There is no device with this id.',
        'the id of a device in this file',
        fact.deviceId,
      )
  })
  walk.settings.onDemand.forEach(({ deviceId }, n) => {
    if (!devices.has(deviceId))
      tell(
        `firstContact.settings.onDemand[${n}].deviceId`,
        'There is no device with this id.',
        'the id of a device in this file',
        deviceId,
      )
  })
  const steps = walk.steps.map((step) => step.stepKey)
  once(steps, (n) => `firstContact.steps[${n}].stepKey`, 'a step', tell)
  const runs = walk.runs.map((run) => run.facts.id)
  once(runs, (n) => `firstContact.runs[${n}].facts.id`, 'a run', tell)
  runs.forEach((id, n) => {
    if (shippedRuns.some((run) => run.id === id))
      tell(`firstContact.runs[${n}].facts.id`, `The run "${id}" ships with the program.`, 'an id of its own', id)
  })
}

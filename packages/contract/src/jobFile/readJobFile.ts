import type { Job } from '@calm/core/job'
import { blankWalk, type WalkRecord } from '@calm/core/procedure'
import { foundText, problemsOf, type Problem } from '../problem'
import { JOB_FILE_LIMIT } from '../limits'
import { JOB_FORMAT, JOB_FORMAT_VERSION, type JobFile } from './jobFile'
import { jobFileSchema } from './schema'

export type JobFileReading =
  | { readonly ok: true; readonly job: Job; readonly firstContact: WalkRecord }
  | { readonly ok: false; readonly problems: readonly Problem[] }

/** Reads a job file as text. All problems are listed with their path; nothing is taken from a file that has one. */
export function readJobFile(text: string): JobFileReading {
  const refuse = (...problems: Problem[]): JobFileReading => ({ ok: false, problems })
  if (text.length > JOB_FILE_LIMIT) {
    const size = `${(text.length / 1024 / 1024).toFixed(1)} MB`
    return refuse({ what: `The file is too large: ${size}.`, where: '', expected: 'at most 20 MB', found: size })
  }
  let content: unknown
  try {
    content = JSON.parse(text)
  } catch (reason) {
    const what = `The file is not JSON: ${reason instanceof Error ? reason.message : String(reason)}`
    return refuse({
      what,
      where: '',
      expected: `a job file written by this program (${JOB_FORMAT})`,
      found: foundText(text.slice(0, 40)),
    })
  }
  const head = (content ?? {}) as Partial<Record<keyof JobFile, unknown>>
  if (head.format !== JOB_FORMAT) {
    return refuse({
      what: 'This is not a job file.',
      where: 'format',
      expected: JOB_FORMAT,
      found: foundText(head.format),
    })
  }
  if (typeof head.version === 'number' && head.version > JOB_FORMAT_VERSION) {
    return refuse({
      what: `The file is of version ${head.version}, written by a newer program. This one reads up to ${JOB_FORMAT_VERSION}.`,
      where: 'version',
      expected: `at most ${JOB_FORMAT_VERSION}`,
      found: String(head.version),
    })
  }
  const { error, value } = jobFileSchema.validate(content, { abortEarly: false, convert: false })
  if (error) return refuse(...problemsOf(error).slice(0, 200))
  const { job, firstContact = blankWalk } = value as JobFile
  const links = [...brokenLinks(job), ...strangers(job, firstContact)]
  return links.length > 0 ? { ok: false, problems: links } : { ok: true, job, firstContact }
}

/** Ids that must be there and be unique, with the path of each that is not. */
function brokenLinks(job: Job): readonly Problem[] {
  const problems: Problem[] = []
  const networks = new Set(job.networks.map((network) => network.id))
  const lines = new Set(job.lines.map((line) => line.id))
  const devices = new Set(job.devices.map((device) => device.id))
  const needs = (known: ReadonlySet<string>, value: string | null, where: string, what: string) => {
    if (value !== null && !known.has(value))
      problems.push({
        what: `There is no ${what} with this id.`,
        where,
        expected: `the id of a ${what} in this file`,
        found: value,
      })
  }
  const seen = new Map<string, string>()
  const unique = (id: string, where: string) => {
    const before = seen.get(id)
    if (before !== undefined)
      problems.push({
        what: `The id is used twice, first at ${before}.`,
        where,
        expected: 'an id of its own',
        found: id,
      })
    seen.set(id, where)
  }
  job.networks.forEach((network, n) => unique(network.id, `job.networks[${n}].id`))
  for (const list of ['lines', 'kinds', 'requests', 'acceptances'] as const)
    job[list].forEach((row, n) => unique(row.id, `job.${list}[${n}].id`))
  job.devices.forEach((device, n) => {
    unique(device.id, `job.devices[${n}].id`)
    needs(devices, device.behindId, `job.devices[${n}].behindId`, 'device')
    device.ports.forEach((port, p) => {
      unique(port.id, `job.devices[${n}].ports[${p}].id`)
      needs(networks, port.networkId, `job.devices[${n}].ports[${p}].networkId`, 'network')
    })
    needs(devices, device.firmwareOfId, `job.devices[${n}].firmwareOfId`, 'device')
    device.nodes.forEach((node, p) => {
      unique(node.id, `job.devices[${n}].nodes[${p}].id`)
      needs(lines, node.lineId, `job.devices[${n}].nodes[${p}].lineId`, 'line')
    })
  })
  job.handshakes.forEach((handshake, n) => {
    unique(handshake.id, `job.handshakes[${n}].id`)
    needs(devices, handshake.controllerId, `job.handshakes[${n}].controllerId`, 'device')
    needs(devices, handshake.deviceId, `job.handshakes[${n}].deviceId`, 'device')
  })
  return problems
}

/** Facts of devices that the file does not have. */
function strangers(job: Job, walk: WalkRecord): readonly Problem[] {
  const devices = new Set(job.devices.map((device) => device.id))
  return walk.facts.flatMap((fact, n) =>
    devices.has(fact.deviceId)
      ? []
      : [
          {
            what: 'There is no device with this id.',
            where: `firstContact.facts[${n}].deviceId`,
            expected: 'the id of a device in this file',
            found: fact.deviceId,
          },
        ],
  )
}

import type { Device, Handshake, Job } from './model'

const idsOf = (rows: readonly { readonly id: string }[]): ReadonlySet<string> => new Set(rows.map((row) => row.id))

/**
 * A job without what hangs on rows that are not there any more: links to them stand open, nodes on a line that is gone,
 * handshakes with an end that is gone and evidence of either go out of sight. Whatever is whole stays the same object.
 */
export function withoutLoose(job: Job): Job {
  const networks = idsOf(job.networks)
  const lines = idsOf(job.lines)
  const deviceIds = idsOf(job.devices)
  const devices = sameOr(job.devices, (device) => deviceWithoutLoose(device, { networks, lines, deviceIds }))
  const handshakes = job.handshakes.filter((each) => deviceIds.has(each.controllerId) && deviceIds.has(each.deviceId))
  const next = {
    ...job,
    devices,
    handshakes: handshakes.length === job.handshakes.length ? job.handshakes : handshakes,
  }
  return withoutLooseEvidence(next)
}

interface Known {
  readonly networks: ReadonlySet<string>
  readonly lines: ReadonlySet<string>
  readonly deviceIds: ReadonlySet<string>
}

function deviceWithoutLoose(device: Device, { networks, lines, deviceIds }: Known): Device {
  const gone = (id: string | null) => id !== null && !deviceIds.has(id)
  const ports = sameOr(device.ports, (port) =>
    port.networkId !== null && !networks.has(port.networkId) ? { ...port, networkId: null } : port,
  )
  const nodes = device.nodes.some((node) => !lines.has(node.lineId))
    ? device.nodes.filter((node) => lines.has(node.lineId))
    : device.nodes
  const behindId = gone(device.behindId) ? null : device.behindId
  const firmwareOfId = gone(device.firmwareOfId) ? null : device.firmwareOfId
  const isSame =
    ports === device.ports &&
    nodes === device.nodes &&
    behindId === device.behindId &&
    firmwareOfId === device.firmwareOfId
  return isSame ? device : { ...device, ports, nodes, behindId, firmwareOfId }
}

function withoutLooseEvidence(job: Job): Job {
  if (job.evidence.length === 0) return job
  const there = new Set<string>([job.id])
  const add = (rows: readonly { readonly id: string }[]) => rows.forEach((row) => there.add(row.id))
  add(job.networks)
  add(job.lines)
  for (const device of job.devices) add([device, ...device.ports])
  for (const handshake of job.handshakes as readonly Handshake[]) add([handshake, ...handshake.points])
  const evidence = job.evidence.filter((each) => there.has(each.subject.id))
  return evidence.length === job.evidence.length ? job : { ...job, evidence }
}

/** A list with each row changed; the same list where none was. */
function sameOr<T>(rows: readonly T[], change: (row: T) => T): readonly T[] {
  let isSame = true
  const next = rows.map((row) => {
    const now = change(row)
    if (now !== row) isSame = false
    return now
  })
  return isSame ? rows : next
}

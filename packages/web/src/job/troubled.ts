import { groupedBy } from '@calm/core/units'
import type { Finding } from '@calm/core/findings'
import type { Device, Job } from '@calm/core/job'

/** The device that a finding's row belongs to: the device itself, its port, its node. */
export function deviceIdsOfRows(job: Job): ReadonlyMap<string, string> {
  const ids = new Map<string, string>()
  for (const device of job.devices) {
    ids.set(device.id, device.id)
    for (const port of device.ports) ids.set(port.id, device.id)
    for (const node of device.nodes) ids.set(node.id, device.id)
  }
  return ids
}

/** Devices about which something is found that will not work, or is unsafe. */
export function troubledDevices(job: Job, findings: readonly Finding[]): ReadonlySet<string> {
  const owners = deviceIdsOfRows(job)
  return new Set(
    findings
      .filter((finding) => finding.severity !== 'worth-knowing')
      .flatMap((finding) => owners.get(finding.subject.id) ?? []),
  )
}

/** Rows by what they hang behind. */
export function childrenOf(job: Job): ReadonlyMap<string | null, readonly Device[]> {
  return groupedBy(job.devices, (device) => device.behindId)
}

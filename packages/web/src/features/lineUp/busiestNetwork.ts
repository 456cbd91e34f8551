import type { Job } from '@calm/core/job'

/** The network that most devices are planned for. */
export function busiestNetwork(job: Job): string | undefined {
  const count = (id: string) =>
    job.devices.flatMap((device) => device.ports).filter((port) => port.networkId === id).length
  return [...job.networks].sort((a, b) => count(b.id) - count(a.id))[0]?.id
}

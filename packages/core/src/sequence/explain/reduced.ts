import type { BringUpDevice, BringUpJob } from '../model'

/** The job with some of its devices only: the others and their addresses are not there. */
export function reducedTo(job: BringUpJob, devices: readonly BringUpDevice[]): BringUpJob {
  const groups = job.groups.filter((group) => devices.some((device) => device.groupId === group.id))
  return { ...job, devices, groups }
}

import { contains, parseIpv4, parseSubnet, type Subnet } from '@calm/core/address'
import type { Job } from '@calm/core/job'
import { portOf, presentOf, type WalkRecord } from '@calm/core/procedure'
import { subnetOf } from '@calm/core/address'
import { refusedBecause } from '../store'

/** Networks that the job is about: those of its plan, and the subnets that its devices are in now. */
export function subnetsOfJob(job: Job, record: WalkRecord): readonly Subnet[] {
  return [
    ...job.networks.flatMap((network) => {
      const own = parseSubnet(network.cidr)
      return own.ok ? [own.value] : []
    }),
    ...job.devices.flatMap((device) => {
      const present = presentOf(job, record, device)
      return present ? [subnetOf(present.address, present.prefix)] : []
    }),
  ]
}

/** Whether an address may be asked for this job: in one of its networks, or the present or planned one of a device. */
export function isInsideJob(job: Job, record: WalkRecord, address: string): boolean {
  const read = parseIpv4(address)
  if (!read.ok) return false
  return (
    subnetsOfJob(job, record).some((subnet) => contains(subnet, read.value)) ||
    job.devices.some((device) => portOf(device)?.address === address)
  )
}

/** On the plant nothing outside the job's networks is ever asked. @throws Refused */
export function requireInsideJob(job: Job, record: WalkRecord, address: string): void {
  if (job.mode === 'bench' || isInsideJob(job, record, address)) return
  throw refusedBecause(
    'On the plant only addresses of this job are asked.',
    'an address in one of its networks, or of one of its devices',
    address,
    'address',
  )
}

import type { Job } from '@calm/core/job'
import { bringUpJobOf, walkOf, type LaptopState, type Stop, type WalkRecord, type WalkStep } from '@calm/core/procedure'
import { contains, parseIpv4, prefixLength, subnetOf } from '@calm/core/address'
import type { HostAddress } from '@calm/core/sequence'
import { notFound, readWalk, type StepPlace } from '../store'
import type { EntityManager } from 'typeorm'

/** Subnets the laptop is in, loopback left out. */
export function laptopSubnets(laptop: LaptopState): readonly HostAddress[] {
  return laptop.interfaces.flatMap((adapter) => {
    const read = parseIpv4(adapter.address)
    if (!read.ok || adapter.loopback || adapter.link === false) return []
    return [{ address: read.value, prefix: prefixLength(adapter.prefix) }]
  })
}

/** The walk of a job as it is saved. */
export async function walkNow(
  manager: EntityManager,
  job: Job,
): Promise<{ readonly record: WalkRecord; readonly stops: readonly Stop[] }> {
  const record = await readWalk(manager, job.id)
  return { record, stops: walkOf(job, record, record.order, bringUpJobOf(job, record, [])) }
}

export async function placeOf(
  manager: EntityManager,
  job: Job,
  stepKey: string,
): Promise<StepPlace & { readonly record: WalkRecord }> {
  const { record, stops } = await walkNow(manager, job)
  const found = findStep(stops, stepKey)
  if (!found) throw notFound('step', stepKey)
  return { job, record, ...found }
}

export function findStep(
  stops: readonly Stop[],
  stepKey: string,
): { readonly stop: Stop; readonly step: WalkStep } | undefined {
  for (const stop of stops) {
    const step = stop.steps.find((each) => each.key === stepKey)
    if (step) return { stop, step }
  }
  return undefined
}

/** Whether the laptop is in the subnet of an address: from elsewhere silence says nothing. */
export function canSee(laptop: LaptopState, address: string): boolean {
  const to = parseIpv4(address)
  return laptop.interfaces.some((adapter) => {
    const own = parseIpv4(adapter.address)
    return own.ok && to.ok && contains(subnetOf(own.value, prefixLength(adapter.prefix)), to.value)
  })
}

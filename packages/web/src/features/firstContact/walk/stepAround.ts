import { formatIpv4, formatSubnet, subnetOf } from '@calm/core/address'
import type { Job } from '@calm/core/job'
import { isSettled, presentOf, type LaptopState, type Stop, type WalkRecord, type WalkStep } from '@calm/core/procedure'
import type { HostAddress } from '@calm/core/sequence'
import type { WalkActs } from '../../../api'

/** A step in hand, with all that it is settled by. */
export interface StepInHand {
  readonly job: Job
  readonly record: WalkRecord
  readonly stop: Stop
  readonly step: WalkStep
  /** Its stop is the one that is due: what only looks is looked at by itself then. */
  readonly isDue: boolean
  readonly laptop: LaptopState | undefined
  readonly acts: WalkActs
}

/** Steps of the same kind, about the same devices where something is written down, that follow each other and are open. */
export function alikeFrom(stop: Stop, step: WalkStep): readonly WalkStep[] {
  const from = stop.steps.slice(stop.steps.findIndex(({ key }) => key === step.key))
  const end = from.findIndex(
    (each, place) =>
      each.step.kind !== step.step.kind ||
      (each !== step && isSettled(each)) ||
      (each.step.kind === 'record' && each.deviceId !== step.deviceId) ||
      // Two backups beside each other would read alike: each is asked for in its own words.
      from
        .slice(0, place)
        .some((before) => before.step.record !== undefined && before.step.record === each.step.record),
  )
  return end < 0 ? from : from.slice(0, end)
}

/** The subnet that a step waits for the laptop to be in; `undefined` for any other step. */
export function laptopSubnet(
  job: Job,
  record: WalkRecord,
  into: HostAddress | null,
  { step, deviceId }: WalkStep,
): string | undefined {
  const device = job.devices.find((each) => each.id === deviceId)
  const waits = step.check === 'laptop-in-subnet' || (into !== null && step.kind === 'set')
  const where = waits ? (into ?? (device && presentOf(job, record, device))) : undefined
  return where ? formatSubnet(subnetOf(where.address, where.prefix)) : undefined
}

export const textOf = (of: ReturnType<typeof presentOf>) => (of ? formatIpv4(of.address) : undefined)

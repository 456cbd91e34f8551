import { formatIpv4 } from '../address'
import type { Job } from '../job'
import { portOf, presentOf } from './present'
import type { WalkRecord } from './record'
import type { CheckId } from './run'
import type { Stop, WalkStep } from './walk'

/** Checks that only look at an address: whoever is at that step wants to know, so they are made by themselves, once. */
const LOOKS: readonly CheckId[] = ['reached-planned', 'reached-present', 'row-answers']

/** The address that a check looks at over the network; `undefined` where it looks at none, or none is known. */
export function looksAt(job: Job, record: WalkRecord, stop: Stop, { step, deviceId }: WalkStep): string | undefined {
  if (step.check === undefined || !LOOKS.includes(step.check)) return undefined
  const device = job.devices.find(({ id }) => id === (deviceId ?? stop.deviceIds[0]))
  const relay = job.devices.find(({ id }) => id === device?.behindId)
  if (!device) return undefined
  if (step.check === 'row-answers' || (!portOf(device) && relay)) return (relay && portOf(relay)?.address) ?? undefined
  if (step.check === 'reached-planned') return portOf(device)?.address ?? undefined
  const present = presentOf(job, record, device)
  return present && formatIpv4(present.address)
}

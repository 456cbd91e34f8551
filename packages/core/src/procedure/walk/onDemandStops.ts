import { formatIpv4, formatSubnet, subnetOf } from '../../address'
import { breakerOf } from '../breaker'
import { plannedOf } from '../fields'
import { begunRuns, heldOnDemand, type BegunRun } from '../onDemand'
import { presentOf } from '../present'
import type { RunStep } from '../run'
import { heldActions, type Held } from '../wholePlant'
import { laptopHost } from './keys'
import { stopOf, type Making } from './making'
import { inMenu } from './menuStep'
import { isSettled, type Stop, type WalkStep } from './model'
import { filledStep } from './steps'

/** A stop for each run that was begun beside the order, the newest first: that is what somebody wants to do now. */
export function onDemandStops(making: Making): readonly Stop[] {
  const { job, record } = making
  return begunRuns(job, record)
    .map((begun) => {
      const stop = stopOf({
        key: begun.stopKey,
        title: `${begun.run.name}: ${begun.device.tag}`,
        reason: begun.run.about,
        devices: [begun.device],
        steps: begun.steps.map((step) => stepOf(making, begun, step)),
        onDemand: begun.begun.id,
      })
      if (stop.state === 'settled') return stop
      return { ...stop, held: heldOnDemand(job, record, begun) ?? heldByPower(making, begun, stop) ?? null }
    })
    .reverse()
}

/** Its breaker off and on again brings all that hang on it back: not while that puts two onto one address. */
function heldByPower({ job, given }: Making, { device }: BegunRun, stop: Stop): Held | undefined {
  const isAhead = stop.steps.some((step) => step.step.becomes === 'live' && !isSettled(step))
  const groupId = breakerOf(job, device)
  const offAndOn = (['group-off', 'group-on'] as const).map((kind) => ({ kind, groupId }))
  return isAhead ? heldActions(given, offAndOn).get(1) : undefined
}

function stepOf(making: Making, { device, stopKey }: BegunRun, step: RunStep): WalkStep {
  const { job, record, given } = making
  const into = step.laptop === 'planned' ? plannedOf(job, device) : step.laptop && presentOf(job, record, device)
  // Where everybody stands who is not in the order: the device itself among them.
  const others = job.devices.flatMap((each) => presentOf(job, record, each) ?? [])
  const planned = job.devices.flatMap((each) => plannedOf(job, each) ?? [])
  const laptop = into && laptopHost(given, into, [...others, ...planned])
  const unknown = '(not known where that is)'
  const fields = {
    ...making.fields(device),
    laptopAt: laptop ? `${formatIpv4(laptop.address)}/${laptop.prefix}` : unknown,
    laptopIn: laptop ? formatSubnet(subnetOf(laptop.address, laptop.prefix)) : unknown,
  }
  return {
    ...making.step(stopKey, device, filledStep(step, fields)),
    ...inMenu(job, device, step, fields),
    ...(laptop && { laptop }),
  }
}

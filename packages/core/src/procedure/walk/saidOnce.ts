import type { Device } from '../../job'
import { listed } from '../../sequence'
import type { RunStep } from '../run'
import type { Making } from './making'
import type { WalkStep } from './model'
import { filledStep } from './steps'

/** A step of a run, with the device whose run it is. */
export interface OfDevice {
  readonly device: Device
  readonly step: RunStep
}

/**
 * Steps of several devices in their order, with what is the same for some of them said once, for all of them: one
 * caution, one look. A step is the same when nothing but the tag differs.
 */
export function saidOnce(making: Making, stopKey: string, list: readonly OfDevice[]): readonly WalkStep[] {
  const groups = new Map<string, OfDevice[]>()
  list.forEach((each, place) => {
    const filling = { ...making.fields(each.device), tag: '' }
    const same = isForAll(each.step) ? JSON.stringify(filledStep(each.step, filling)) : `alone ${place}`
    groups.set(same, [...(groups.get(same) ?? []), each])
  })
  return [...groups.values()].flatMap((group) => {
    const [first] = group
    if (!first) return []
    const { device, step } = first
    if (group.length === 1) return [making.step(stopKey, device, filledStep(step, making.fields(device)))]
    const devices = group.map((each) => each.device)
    const filling = { ...making.fields(device), tag: listed(devices.map(({ tag }) => tag)) }
    return [making.step(stopKey, null, filledStep(step, filling), devices)]
  })
}

/** Whether one tick can stand for several devices: nothing is written down, set or looked at singly. */
function isForAll({ kind, check, seconds, watch, leaves, putsBack }: RunStep): boolean {
  // The ledger has a line for each: one that is back says nothing of the other.
  if (leaves || putsBack !== undefined) return false
  switch (kind) {
    case 'record':
    case 'set':
    case 'decide':
    case 'turn':
      return false
    case 'check':
      return check === 'row-answers' || check === 'nodes-listed' || check === 'relay-answers'
    case 'wait':
      return typeof seconds === 'number' && watch === undefined
    default:
      return true
  }
}

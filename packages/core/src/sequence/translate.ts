import { formatSubnet, subnetOf } from '../address'
import { sameSpot, type BringUpAction, type CompiledJob, type HostAddress, type Move } from './model'

/** A move in the words of the job. */
export function actionOf(compiled: CompiledJob, move: Move): BringUpAction {
  const { job, spots, devices, subnets } = compiled
  const idOf = (device: number): string => job.devices[device]?.id ?? ''
  const place = (spot: number): HostAddress => {
    const { address, prefix } = spots[spot] ?? fail()
    return { address, prefix }
  }
  const subnet = (index: number): HostAddress => {
    const { base, prefix } = subnets[index] ?? fail()
    return { address: base, prefix }
  }
  switch (move.kind) {
    case 'laptop':
      return { kind: 'laptop', into: subnet(move.subnet), leaves: move.leaves < 0 ? null : subnet(move.leaves) }
    case 'cable':
      return { kind: 'cable', into: move.device < 0 ? 'switch' : idOf(move.device) }
    case 'set': {
      const facts = devices[move.device]
      const parking = move.to !== facts?.target
      return { kind: 'set', deviceId: idOf(move.device), to: place(move.to), parking, pending: facts?.cycles ?? false }
    }
    case 'verify':
    case 'lead-out':
    case 'lead-in':
      return { kind: move.kind, deviceId: idOf(move.device) }
    default:
      return { kind: move.kind, groupId: job.groups[move.group]?.id ?? '' }
  }
}

function fail(): never {
  throw new RangeError('A move names what the job does not have')
}

/** An action of the job in numbers; `undefined` where the job does not have what it names. */
export function moveOf(compiled: CompiledJob, action: BringUpAction): Move | undefined {
  const { job, spots, subnets } = compiled
  const deviceOf = (id: string) => job.devices.findIndex((device) => device.id === id)
  const subnetAt = (of: HostAddress): number => {
    const text = formatSubnet(subnetOf(of.address, of.prefix))
    return subnets.findIndex((subnet) => formatSubnet(subnet) === text)
  }
  switch (action.kind) {
    case 'laptop': {
      const subnet = subnetAt(action.into)
      return subnet < 0 ? undefined : { kind: 'laptop', subnet, leaves: action.leaves ? subnetAt(action.leaves) : -1 }
    }
    case 'cable': {
      const device = action.into === 'switch' ? -1 : deviceOf(action.into)
      return action.into !== 'switch' && device < 0 ? undefined : { kind: 'cable', device }
    }
    case 'set': {
      const device = deviceOf(action.deviceId)
      const to = spots.findIndex((spot) => sameSpot(spot, action.to))
      return device < 0 || to < 0 ? undefined : { kind: 'set', device, to }
    }
    case 'verify':
    case 'lead-out':
    case 'lead-in': {
      const device = deviceOf(action.deviceId)
      return device < 0 ? undefined : { kind: action.kind, device }
    }
    default: {
      const group = job.groups.findIndex((each) => each.id === action.groupId)
      return group < 0 ? undefined : { kind: action.kind, group }
    }
  }
}

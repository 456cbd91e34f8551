import { formatIpv4, formatSubnet, subnetOf } from '../../address'
import type { BringUpAction, BringUpJob, HostAddress } from '../model'
import { listed } from './names'

export const subnetText = (of: HostAddress): string => formatSubnet(subnetOf(of.address, of.prefix))

/** What is done, in a line. `nameOf` gives the tag of a device. */
export function titleOf(job: BringUpJob, action: BringUpAction, nameOf: (deviceId: string) => string): string {
  switch (action.kind) {
    case 'laptop':
      return `Laptop into ${subnetText(action.into)}`
    case 'cable':
      return action.into === 'switch'
        ? 'Laptop’s cable back to the switch'
        : `Laptop’s cable straight into ${nameOf(action.into)}`
    case 'lead-out':
      return `Pull the network lead of ${nameOf(action.deviceId)}`
    case 'lead-in':
      return `Plug in the network lead of ${nameOf(action.deviceId)}`
    case 'set':
      return `${action.parking ? 'Park' : 'Set'} ${nameOf(action.deviceId)} ${action.parking ? 'at' : 'to'} ${formatIpv4(action.to.address)}`
    case 'verify':
      return `Find ${nameOf(action.deviceId)} again`
    case 'group-off':
      return `Take ${action.groupId} off${membersText(job, action.groupId, nameOf)}`
    case 'group-on':
      return `Put ${action.groupId} on${membersText(job, action.groupId, nameOf)}`
  }
}

/** Who gets or loses power, where the group is not called like its only device. */
function membersText(job: BringUpJob, groupId: string, nameOf: (id: string) => string): string {
  const names = job.devices.filter((device) => device.groupId === groupId).map((device) => nameOf(device.id))
  if (names.length === 0 || names.join() === groupId) return ''
  return names.length > 3 ? `: ${names.length} devices` : `: ${listed(names)}`
}

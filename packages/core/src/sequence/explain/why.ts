import { formatIpv4 } from '../../address'
import { compileJob, type BringUpDevice, type BringUpJob } from '../model'
import { called, listed } from './names'

/** Why a smallest set of devices cannot be brought up, in one line. The job is that of the set alone. */
export function whyOf(job: BringUpJob): string {
  const [one, two] = job.devices
  const names = listed(job.devices.map(called))
  if (!one) return ''
  if (!two) return whyAlone(job, one)
  const frozen = job.devices.filter((device) => device.frozen)
  if (frozen.length > 0) return whyBeside(job, frozen)
  if (job.devices.length === 2 && one.target.address === two.target.address)
    return `${names} are to have the same address.`
  const sameGroup = job.devices.every((device) => device.groupId === one.groupId)
  const sameAddress = job.devices.every((device) => device.present?.address === one.present?.address && device.present)
  if (sameGroup && sameAddress)
    return job.groups[0]?.chained
      ? `${names} have one address, one breaker (${one.groupId}) and one cable: none can be alone on it.`
      : `${names} share ${one.groupId} and an address.`
  if (sameAddress) return `${names} have one address now, and none can leave it before another holds it.`
  return `${names} stand in each other's way: no order of steps ends with all of them at their planned addresses.`
}

/** Somebody is in the order, others are not and stand in the plant all the same. */
function whyBeside(job: BringUpJob, frozen: readonly BringUpDevice[]): string {
  const walked = job.devices.filter((device) => !device.frozen)
  const names = listed(walked.map(called))
  const others = listed(frozen.map(called))
  const are = frozen.length === 1 ? 'is' : 'are'
  const [device, other] = [walked[0], frozen[0]]
  if (walked.length === 1 && frozen.length === 1 && device && other) {
    if (other.present?.address === device.target.address)
      return `${others} is not in the order and holds ${formatIpv4(device.target.address)}, the planned address of ${names}.`
    if (other.present && other.present.address === device.present?.address)
      return other.groupId === device.groupId
        ? `${names} and ${others} come on together by ${device.groupId} at ${formatIpv4(other.present.address)}, and ${others} is not in the order.`
        : `${names} and ${others} are both at ${formatIpv4(other.present.address)}, and ${others} is not in the order.`
  }
  return `${names} cannot be done beside ${others}, which ${are} not in the order and stay${frozen.length === 1 ? 's' : ''} where ${frozen.length === 1 ? 'it is' : 'they are'}.`
}

function whyAlone(job: BringUpJob, device: BringUpDevice): string {
  const group = job.groups[0]
  const stays = group?.mustStayLive
  if (device.access === 'over-ip' && !device.present) return `${called(device)} is set over IP and has no address yet.`
  if (compileJob(job).devices[0]?.reachesTarget === false)
    return `The planned address of ${called(device)} is out of reach of the way it is set.`
  if (device.access === 'lease' && stays && group?.live)
    return `${called(device)} takes its reserved address when it is next put on, and ${device.groupId} may not be taken off.`
  if (device.effect === 'power-cycle' && stays)
    return `What is set in ${called(device)} counts after power off and on, and ${device.groupId} may not be taken off.`
  return `The laptop finds no free host beside ${called(device)}: every address of the subnet is taken or reserved.`
}

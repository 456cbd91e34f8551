import { formatIpv4, formatSubnet, subnetOf } from '../../address'
import type { BringUpAction, BringUpDevice, BringUpJob, HostAddress } from '../model'
import { listed } from './impossible'

/** What is done in an action, and why then, each in one line. `nameOf` gives the tag of a device. */
export interface ActionWords {
  readonly title: string
  readonly reason: string
}

const subnetText = (of: HostAddress) => formatSubnet(subnetOf(of.address, of.prefix))

/** Words for every action of an order. */
export function wordsOf(
  job: BringUpJob,
  actions: readonly BringUpAction[],
  nameOf: (deviceId: string) => string,
): readonly ActionWords[] {
  const devices = new Map(job.devices.map((device) => [device.id, device]))
  const wentOn = new Set<string>()
  return actions.map((action, index): ActionWords => {
    const later = actions.slice(index + 1)
    switch (action.kind) {
      case 'laptop':
        return {
          title: `Laptop into ${subnetText(action.into)}`,
          reason: laptopReason(action.into, later, devices, nameOf),
        }
      case 'cable':
        return action.into === 'switch'
          ? { title: 'Laptop’s cable back to the switch', reason: 'Every other device is heard there again.' }
          : {
              title: `Laptop’s cable straight into ${nameOf(action.into)}`,
              reason: 'Alone on the cable it clashes with nobody.',
            }
      case 'set': {
        const name = nameOf(action.deviceId)
        const to = formatIpv4(action.to.address)
        if (action.parking)
          return { title: `Park ${name} at ${to}`, reason: `A spare address: its own is still held by another.` }
        return {
          title: `Set ${name} to ${to}`,
          reason: action.pending ? 'It counts after power off and on.' : settingReason(devices.get(action.deviceId)),
        }
      }
      case 'verify':
        return { title: `Find ${nameOf(action.deviceId)} again`, reason: 'At its planned address, in force.' }
      case 'group-off':
        return {
          title: `Take ${action.groupId} off${membersText(job, action.groupId, nameOf)}`,
          reason: offReason(job, action.groupId, actions.slice(0, index), nameOf),
        }
      case 'group-on': {
        const again = wentOn.has(action.groupId)
        wentOn.add(action.groupId)
        return {
          title: `Put ${action.groupId} on${membersText(job, action.groupId, nameOf)}`,
          reason: onReason(job, action.groupId, again, later, wentOn, nameOf),
        }
      }
    }
  })
}

/** Who gets or loses power, where the group is not called like its only device. */
function membersText(job: BringUpJob, groupId: string, nameOf: (id: string) => string): string {
  const names = job.devices.filter((device) => device.groupId === groupId).map((device) => nameOf(device.id))
  if (names.length === 0 || names.join() === groupId) return ''
  return names.length > 3 ? `: ${names.length} devices` : `: ${listed(names)}`
}

function laptopReason(
  into: HostAddress,
  later: readonly BringUpAction[],
  devices: ReadonlyMap<string, BringUpDevice>,
  nameOf: (id: string) => string,
): string {
  const until = later.findIndex((action) => action.kind === 'laptop')
  const here = until < 0 ? later : later.slice(0, until)
  const names = (kind: 'set' | 'verify') => [
    ...new Set(
      here.flatMap((action) => {
        if (action.kind !== kind) return []
        if (action.kind === 'set' && devices.get(action.deviceId)?.access !== 'over-ip') return []
        return [nameOf(action.deviceId)]
      }),
    ),
  ]
  const few = (list: readonly string[]) => (list.length > 4 ? `${list.length} devices` : listed(list))
  const [set, seen] = [names('set'), names('verify')]
  const parts = [
    ...(set.length > 0 ? [`${few(set)} ${set.length === 1 ? 'is' : 'are'} set there`] : []),
    ...(seen.length > 0 ? [`${few(seen)} ${seen.length === 1 ? 'is' : 'are'} found again there`] : []),
  ]
  return parts.length > 0 ? `${parts.join(', ')}.` : `Into ${subnetText(into)}.`
}

function settingReason(device: BringUpDevice | undefined): string {
  if (!device) return ''
  if (device.access === 'local') return 'At the device; where the laptop is does not matter.'
  return 'The laptop is in its subnet now.'
}

function offReason(
  job: BringUpJob,
  groupId: string,
  before: readonly BringUpAction[],
  nameOf: (id: string) => string,
): string {
  const members = job.devices.filter((device) => device.groupId === groupId)
  const pending = members.filter((device) =>
    before.some((action) => action.kind === 'set' && action.pending && action.deviceId === device.id),
  )
  if (pending.length > 0)
    return `What was set in ${listed(pending.map(({ id }) => nameOf(id)))} counts after power off and on.`
  if (members.some((device) => device.access === 'lease')) return 'It takes its reserved address when it comes back.'
  return 'Its address is needed by another for a moment.'
}

/** Names the twin that has to stay off, or had to be moved first. */
function onReason(
  job: BringUpJob,
  groupId: string,
  again: boolean,
  later: readonly BringUpAction[],
  wentOn: ReadonlySet<string>,
  nameOf: (id: string) => string,
): string {
  const members = job.devices.filter((device) => device.groupId === groupId)
  if (again)
    return `${listed(members.map(({ id }) => nameOf(id)))} ${members.length === 1 ? 'takes' : 'take'} what was set.`
  const twins = (each: BringUpDevice) =>
    job.devices.filter(
      (other) => other.id !== each.id && each.present && other.present?.address === each.present.address,
    )
  for (const member of members) {
    const waiting = twins(member).filter(
      (twin) =>
        !wentOn.has(twin.groupId) &&
        later.some((action) => action.kind === 'group-on' && action.groupId === twin.groupId),
    )
    const [first] = waiting
    if (first && member.present) {
      const names =
        waiting.length > 3
          ? `${waiting.length} others stay`
          : `${listed(waiting.map(({ id }) => nameOf(id)))} ${waiting.length === 1 ? 'stays' : 'stay'}`
      const has = waiting.length === 1 ? 'it has' : 'they have'
      return `${names} unpowered: ${has} the same factory address as ${nameOf(member.id)}.`
    }
    const moved = twins(member).filter((twin) => wentOn.has(twin.groupId))
    if (moved.length > 0 && member.present)
      return `${listed(moved.slice(-1).map(({ id }) => nameOf(id)))} has left ${formatIpv4(member.present.address)}, so ${nameOf(member.id)} may have it now.`
  }
  return members.length > 1
    ? `${listed(members.map(({ id }) => nameOf(id)))} come on together.`
    : 'Its address is nobody else’s.'
}

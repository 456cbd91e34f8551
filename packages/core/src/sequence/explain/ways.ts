import type { BringUpDevice, BringUpJob, PowerGroup } from '../model'
import { called, listed } from './names'
import { reducedTo } from './reduced'

/** A change to a job that may make it possible, with its words. */
export interface Change {
  readonly say: string
  readonly change: BringUpJob
  /** The device whose lead is pulled by it: that can be said in the walk. */
  readonly leadOf?: string
}

/** Changes to a job that may help, what is least trouble first. */
export function changes(job: BringUpJob): readonly Change[] {
  return [
    ...job.groups.flatMap((group) => apartOnCable(job, group)),
    ...job.devices.flatMap((device) => (device.frozen ? [] : changesOf(job, device))),
    ...job.devices.flatMap((device) => (device.frozen ? changesOfFrozen(job, device) : [])),
    ...job.groups.flatMap((group) =>
      group.mustStayLive
        ? [
            {
              say: `Agree on a moment when ${group.id} may be taken off.`,
              change: withGroup(job, group, { mustStayLive: false }),
            },
          ]
        : [],
    ),
    ...(job.reserved.length > 0
      ? [{ say: 'Free a reserved address to be used for a moment.', change: { ...job, reserved: [] } }]
      : []),
  ]
}

/** Only those of a group hang on its cable. */
function apartOnCable(job: BringUpJob, group: PowerGroup): readonly Change[] {
  const members = job.devices.filter((device) => device.groupId === group.id)
  if (!group.chained || job.devices.length < 2) return []
  const names = listed(members.map(called))
  return [
    {
      say:
        members.length > 1
          ? `Connect ${names} one by one: a lead of its own for each, not one cable through all.`
          : `Give ${names} a lead of its own, not one cable through all.`,
      change: withGroup(job, group, { chained: false }),
    },
  ]
}

function changesOf(job: BringUpJob, device: BringUpDevice): readonly Change[] {
  const name = called(device)
  const change = (of: Partial<BringUpDevice>) => withDevice(job, device, of)
  const rivals = job.devices.some(
    (other) => other !== device && (other.frozen ? other.present : other.target)?.address === device.target.address,
  )
  const without = reducedTo(
    job,
    job.devices.filter((each) => each !== device),
  )
  return [
    ...(rivals ? [{ say: `Plan another address for ${name}.`, change: without }] : []),
    ...separated(job, device),
    ...(device.access === 'over-ip'
      ? [
          {
            say: `Set ${name} at its keypad, switches or serial menu.`,
            change: change({ access: 'local', reach: null }),
          },
        ]
      : []),
    ...(device.access !== 'lease'
      ? [{ say: `Give ${name} its address by a DHCP reservation.`, change: change({ access: 'lease' }) }]
      : []),
    ...(device.reach
      ? [
          {
            say: `Plan an address for ${name} that its way of setting reaches, or set it another way.`,
            change: change({ reach: null }),
          },
        ]
      : []),
  ]
}

/** What is not in the order can come into it, be unplugged, or hang elsewhere. */
function changesOfFrozen(job: BringUpJob, device: BringUpDevice): readonly Change[] {
  const name = called(device)
  const chained = job.groups.find((group) => group.id === device.groupId)?.chained
  const isToMove = device.present?.address !== device.target.address
  return [
    ...(isToMove ? [{ say: `Take ${name} into the order.`, change: withDevice(job, device, { frozen: false }) }] : []),
    ...(chained
      ? []
      : [
          {
            say: `Pull the network lead of ${name}, and say so here.`,
            change: withDevice(job, device, { leadPulled: true }),
            leadOf: device.id,
          },
        ]),
    ...separated(job, device),
  ]
}

function separated(job: BringUpJob, device: BringUpDevice): readonly Change[] {
  const group = job.groups.find((each) => each.id === device.groupId)
  if (!group || job.devices.filter((each) => each.groupId === device.groupId).length < 2) return []
  const id = `${device.groupId} apart`
  const own = { ...group, id, chained: false, mustStayLive: false, live: false }
  return [
    {
      say: `Separate ${called(device)} from ${device.groupId}.`,
      change: { ...withDevice(job, device, { groupId: id }), groups: [...job.groups, own] },
    },
  ]
}

const withDevice = (job: BringUpJob, of: BringUpDevice, change: Partial<BringUpDevice>): BringUpJob => ({
  ...job,
  devices: job.devices.map((device) => (device === of ? { ...device, ...change } : device)),
})

const withGroup = (job: BringUpJob, of: PowerGroup, change: Partial<PowerGroup>): BringUpJob => ({
  ...job,
  groups: job.groups.map((group) => (group === of ? { ...group, ...change } : group)),
})

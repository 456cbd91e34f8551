import { hostCount, hostsOf, inRange, ipv4FromBits, maskOf, subnetOf, type Subnet } from '../../address'
import type { BringUpDevice, BringUpJob, HostAddress } from './bringUpJob'
import { allCuts, type Cut } from './cuts'

/** An address with its mask that somebody may hold, and the subnet it lies in, by number. */
interface Spot extends HostAddress {
  readonly subnet: number
}

/** One device with its places by number. */
interface Compiled {
  readonly group: number
  readonly present: number
  readonly target: number
  /** What waits for power from before, -1 for nothing. */
  readonly pending: number
  readonly verified: boolean
  /** Not in the order: nothing is done at it. */
  readonly frozen: boolean
  readonly local: boolean
  readonly lease: boolean
  readonly cycles: boolean
  readonly handsOn: number
  /** Spots where it may be parked, by subnet, lowest first. Empty where it cannot be set to a spare address. */
  readonly parking: readonly (readonly number[])[]
  /** Devices that are alike in all that counts carry the same number; -1 where it has no like. */
  readonly likeness: number
  readonly reachesTarget: boolean
}

/** The job in numbers: what the search runs on. Spots, subnets, groups and devices are indices. */
export interface CompiledJob {
  readonly job: BringUpJob
  readonly cuts: ReadonlySet<Cut>
  readonly devices: readonly Compiled[]
  readonly spots: readonly Spot[]
  /** By spot: the number of its address. Spots that differ in the mask only share it. */
  readonly addressOf: Int32Array
  readonly subnets: readonly Subnet[]
  /** Enough hosts in it for everybody, so that the laptop always finds one. */
  readonly roomy: readonly boolean[]
  /** By subnet: how many hosts nobody is to have and nobody reserved; counted as far as they may be needed. */
  readonly spare: readonly number[]
  readonly members: readonly (readonly number[])[]
  /** By group: whether it is switched at all. One that only powers what is not in the order stays as it is. */
  readonly switched: readonly boolean[]
  readonly laptopStart: readonly number[]
  /** Weight of each kind of action: one number that orders as the job prefers. */
  readonly weight: {
    readonly laptop: number
    readonly cable: number
    readonly lead: number
    readonly group: readonly number[]
    readonly set: readonly number[]
  }
}

/** How many spare hosts of a subnet are looked at. More than there are devices are never needed. */
const spareLimit = (job: BringUpJob): number => job.devices.length + 1

export const sameSpot = (a: HostAddress, b: HostAddress): boolean => a.address === b.address && a.prefix === b.prefix

/** Puts the job into numbers. */
export function compileJob(job: BringUpJob, cuts: ReadonlySet<Cut> = allCuts): CompiledJob {
  const spots: Spot[] = []
  const subnets: Subnet[] = []
  const subnetNumber = (of: HostAddress): number => {
    const { base, prefix } = subnetOf(of.address, of.prefix)
    const known = subnets.findIndex((each) => each.base === base && each.prefix === prefix)
    return known >= 0 ? known : subnets.push({ base, prefix }) - 1
  }
  const byText = new Map<string, number>()
  const spotNumber = (of: HostAddress): number => {
    const text = `${of.address}/${of.prefix}`
    let known = byText.get(text)
    if (known === undefined) byText.set(text, (known = spots.push({ ...of, subnet: subnetNumber(of) }) - 1))
    return known
  }
  const groupNumber = new Map(job.groups.map((group, index) => [group.id, index]))
  const groupOf = (device: BringUpDevice): number => {
    const group = groupNumber.get(device.groupId)
    if (group === undefined) throw new RangeError(`No group ${device.groupId}`)
    return group
  }
  const spares = spareHosts(job)
  const compiled = job.devices.map((device): Omit<Compiled, 'likeness'> => {
    const off = !job.groups[groupOf(device)]?.live
    const target = spotNumber(device.target)
    const lease = device.access === 'lease'
    return {
      group: groupOf(device),
      // A lease gives the target from the moment the device is live: where it was before does not count.
      present: lease && off ? target : device.present ? spotNumber(device.present) : -1,
      target,
      pending: device.pending ? spotNumber(device.pending) : -1,
      verified: device.verified ?? false,
      frozen: device.frozen ?? false,
      local: device.access === 'local',
      lease,
      cycles: device.effect === 'power-cycle',
      handsOn: device.handsOnSeconds,
      parking:
        lease || device.frozen
          ? []
          : subnetsForParking(device).map((subnet) =>
              spares(subnet)
                .filter((spare) => withinReach(device, spare))
                .slice(0, spareLimit(job))
                .map((spare) => spotNumber(spare)),
            ),
      reachesTarget: withinReach(device, device.target),
    }
  })
  const laptopStart = job.laptop.subnets.map(subnetNumber).sort((a, b) => a - b)
  const members = job.groups.map((_, group) =>
    compiled.flatMap((device, index) => (device.group === group ? [index] : [])),
  )
  const crowd = 2 * job.devices.length + 2
  return {
    job,
    cuts,
    devices: cuts.has('likes')
      ? likenesses(job, compiled, members, spots)
      : compiled.map((device) => ({ ...device, likeness: -1 })),
    spots,
    addressOf: addressNumbers(spots),
    subnets,
    roomy: subnets.map((subnet) => hostCount(subnet) - takenByRanges(job, subnet) > crowd),
    spare: subnets.map((subnet) => spareCount(job, subnet)),
    members,
    switched: members.map((list) => list.length === 0 || list.some((member) => !compiled[member]?.frozen)),
    laptopStart,
    weight: weightsOf(job),
  }
}

function withinReach(device: BringUpDevice, spare: HostAddress): boolean {
  const reach = device.reach
  if (!reach) return true
  return ((reach.address ^ spare.address) & maskOf(reach.prefix)) === 0
}

function subnetsForParking(device: BringUpDevice): readonly HostAddress[] {
  const { present, target } = device
  if (!present) return [target]
  const one = subnetOf(present.address, present.prefix)
  const two = subnetOf(target.address, target.prefix)
  return one.base === two.base && one.prefix === two.prefix ? [target] : [present, target]
}

/** Hosts of a subnet that are nobody's present address, target or reserved address, lowest first. */
function spareHosts(job: BringUpJob): (of: HostAddress) => readonly HostAddress[] {
  const taken = new Set<number>(
    job.devices.flatMap((device) => [device.target.address, ...(device.present ? [device.present.address] : [])]),
  )
  const known = new Map<string, readonly HostAddress[]>()
  return (of) => {
    const subnet = subnetOf(of.address, of.prefix)
    const key = `${subnet.base}/${subnet.prefix}`
    const found = known.get(key)
    if (found) return found
    const hosts = hostsOf(subnet)
    const spare: HostAddress[] = []
    // A reach may leave only a corner of a large subnet; a whole /16 is looked through, no more.
    const last = Math.min(hosts.last, hosts.first + 65_535)
    const reaches = job.devices.flatMap((device) => (device.reach ? [device.reach] : []))
    const enough = reaches.length > 0 ? Infinity : spareLimit(job)
    for (let bits: number = hosts.first; bits <= last && spare.length < enough; bits += 1) {
      const address = ipv4FromBits(bits)
      if (taken.has(address)) continue
      const range = job.reserved.find((each) => inRange(each, address))
      if (range) bits = range.last
      else spare.push({ address, prefix: of.prefix })
    }
    known.set(key, spare)
    return spare
  }
}

/** By spot, the first spot with its address. */
function addressNumbers(spots: readonly Spot[]): Int32Array {
  const first = new Map<number, number>()
  return Int32Array.from(spots, ({ address }, spot) => {
    const known = first.get(address)
    if (known === undefined) first.set(address, spot)
    return known ?? spot
  })
}

function spareCount(job: BringUpJob, subnet: Subnet): number {
  const wanted = new Set<number>(job.devices.map((device) => device.target.address))
  const enough = 2 * job.devices.length + 1
  const hosts = hostsOf(subnet)
  let count = 0
  for (let bits: number = hosts.first; bits <= hosts.last && count < enough; bits += 1) {
    const address = ipv4FromBits(bits)
    const range = job.reserved.find((each) => inRange(each, address))
    if (range) bits = range.last
    else if (!wanted.has(address)) count += 1
  }
  return count
}

function takenByRanges(job: BringUpJob, subnet: Subnet): number {
  const hosts = hostsOf(subnet)
  return job.reserved.reduce((sum, range) => {
    const first = Math.max(range.first, hosts.first)
    const last = Math.min(range.last, hosts.last)
    return sum + Math.max(0, last - first + 1)
  }, 0)
}

/** Numbers devices that may be exchanged for each other: only the host number of an unshared target differs. */
function likenesses(
  job: BringUpJob,
  compiled: readonly Omit<Compiled, 'likeness'>[],
  members: readonly (readonly number[])[],
  spots: readonly Spot[],
): readonly Compiled[] {
  const wanted = new Map<number, number>()
  for (const { present, target } of compiled)
    for (const spot of new Set([present, target])) {
      const address = spots[spot]?.address
      if (address !== undefined) wanted.set(address, (wanted.get(address) ?? 0) + 1)
    }
  const texts = compiled.map((device, index) => {
    const group = job.groups[device.group]
    const target = spots[device.target]
    if (!group || !target || members[device.group]?.length !== 1) return ''
    if (wanted.get(target.address) !== 1 || device.present === device.target) return ''
    if (device.pending >= 0 || device.verified || device.frozen || job.devices[index]?.leadPulled) return ''
    const { access, effect, handsOnSeconds } = job.devices[index] as BringUpDevice
    const ways = [device.present, target.subnet, access, effect, handsOnSeconds, device.reachesTarget]
    const power = [group.seconds, group.live, group.mustStayLive, group.chained]
    return JSON.stringify([...ways, ...power, device.parking])
  })
  const numbers = [...new Set(texts.filter((text) => text !== '' && texts.indexOf(text) !== texts.lastIndexOf(text)))]
  return compiled.map((device, index) => ({ ...device, likeness: numbers.indexOf(texts[index] ?? '') }))
}

/** One number for each action, so that sums compare as the job prefers: the first measure weighs most. */
function weightsOf(job: BringUpJob): CompiledJob['weight'] {
  const bySeconds = job.preference === 'seconds'
  const second = bySeconds ? 1e9 : 1
  const [laptop, power, set] = bySeconds ? [1e6, 1e3, 1] : [1e12, 1e9, 1e6]
  return {
    laptop: job.seconds.laptopChange * second + laptop,
    cable: job.seconds.cableMove * second,
    lead: job.seconds.leadMove * second,
    group: job.groups.map((group) => group.seconds * second + power),
    set: job.devices.map((device) => device.handsOnSeconds * second + set),
  }
}

/** Whether the laptop finds a host in a subnet: one that nobody has, wants or reserves. */
export function hasFreeHost(compiled: CompiledJob, subnet: number, held: ReadonlySet<number>): boolean {
  if (compiled.roomy[subnet]) return true
  const of = compiled.subnets[subnet]
  if (!of) return false
  const hosts = hostsOf(of)
  for (let bits: number = hosts.first; bits <= hosts.last; bits += 1) {
    const address = ipv4FromBits(bits)
    const range = compiled.job.reserved.find((each) => inRange(each, address))
    if (range) bits = range.last
    else if (!held.has(address) && !compiled.job.devices.some((device) => device.target.address === address))
      return true
  }
  return false
}

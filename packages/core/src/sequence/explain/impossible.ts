import { type BringUpDevice, type BringUpJob, type CompiledJob, compileJob, startState } from '../model'
import { searchFrom } from '../search'

/** The smallest set of devices that cannot be brought up together, and what would make it possible. */
export interface Impossible {
  readonly deviceIds: readonly string[]
  readonly why: string
  /** Each was tried on the set: with it, there is an order. */
  readonly help: readonly string[]
}

/** Sets tried before the search for the smallest one is given up. */
const MOST_TRIES = 4_000
/** States looked at for one set. */
const EFFORT = 20_000

/** Whether there is no order for a job; a job too large to say counts as possible. */
export function isImpossible(job: BringUpJob): boolean {
  const compiled = compileJob(job)
  const found = searchFrom(compiled, startState(compiled), { states: EFFORT })
  return !found.moves && found.proven
}

/** The job with some of its devices only: the others and their addresses are not there. */
export function reducedTo(job: BringUpJob, devices: readonly BringUpDevice[]): BringUpJob {
  const groups = job.groups.filter((group) => devices.some((device) => device.groupId === group.id))
  return { ...job, devices, groups }
}

/**
 * A smallest set of devices whose job cannot be done, looked for by size; `undefined` where none up to the size was
 * found. Devices of a smallest set hang together by an address, a group or a crowded subnet.
 */
export function smallestConflict(
  job: BringUpJob,
  smallest: number,
  largest: number,
  isLate: () => boolean = () => false,
): readonly BringUpDevice[] | undefined {
  const same = smallest <= 2 && largest >= 2 ? sameTarget(job) : undefined
  if (same) return same
  const compiled = compileJob(job)
  const kinOf = relatives(compiled)
  let tries = 0
  const signature = (set: readonly number[]) =>
    set
      .map((device) => {
        const likeness = compiled.devices[device]?.likeness ?? -1
        return likeness < 0 ? `d${device}` : `l${likeness}`
      })
      .sort()
      .join()
  let sets: readonly (readonly number[])[] = job.devices.map((_, device) => [device])
  for (let size = 1; size <= largest; size += 1) {
    const seen = new Set<string>()
    const distinct = sets.filter((set) => !seen.has(signature(set)) && seen.add(signature(set)))
    if (size >= smallest)
      for (const set of distinct) {
        if ((tries += 1) > MOST_TRIES || isLate()) return undefined
        const devices = set.flatMap((device) => job.devices[device] ?? [])
        if (isImpossible(reducedTo(job, devices))) return devices
      }
    if (size === largest) break
    const next = new Map<string, readonly number[]>()
    for (const set of distinct) {
      if (isLate() || next.size > MOST_TRIES) return undefined
      for (const device of new Set(set.flatMap((each) => kinOf[each] ?? []))) {
        if (set.includes(device)) continue
        const grown = [...set, device].sort((a, b) => a - b)
        next.set(grown.join(), grown)
      }
    }
    sets = [...next.values()]
  }
  return undefined
}

/** The first two devices that are to have one address. */
function sameTarget(job: BringUpJob): readonly BringUpDevice[] | undefined {
  const wanted = new Map<number, BringUpDevice>()
  for (const device of job.devices) {
    const other = wanted.get(device.target.address)
    if (other) return [other, device]
    wanted.set(device.target.address, device)
  }
  return undefined
}

/** Devices that cannot be brought up even alone, each with the reason. */
export function impossibleAlone(job: BringUpJob): readonly Impossible[] {
  return job.devices.flatMap((device) =>
    isImpossible(reducedTo(job, [device])) ? [explainConflict(job, [device])] : [],
  )
}

/** By device, the others it hangs together with. */
function relatives(compiled: CompiledJob): readonly (readonly number[])[] {
  const marks = compiled.devices.map(({ group, present, target }) => {
    const spots = [present, target].filter((spot) => spot >= 0)
    return new Set([
      `group ${group}`,
      ...spots.map((spot) => `address ${compiled.addressOf[spot]}`),
      ...spots.flatMap((spot) => {
        const subnet = compiled.spots[spot]?.subnet ?? -1
        return compiled.roomy[subnet] ? [] : [`subnet ${subnet}`]
      }),
    ])
  })
  const holders = new Map<string, number[]>()
  marks.forEach((set, device) => {
    for (const mark of set) holders.set(mark, [...(holders.get(mark) ?? []), device])
  })
  return marks.map((set, device) => [
    ...new Set([...set].flatMap((mark) => holders.get(mark) ?? []).filter((other) => other !== device)),
  ])
}

/** Takes devices away one by one while the rest stays impossible: a set from which none can be spared. */
export function sparedDown(job: BringUpJob): readonly BringUpDevice[] {
  let devices = job.devices
  for (const device of job.devices) {
    const rest = devices.filter((each) => each !== device)
    if (rest.length > 0 && isImpossible(reducedTo(job, rest))) devices = rest
  }
  return devices
}

/** Says why a smallest set cannot be done, and what would help. */
export function explainConflict(job: BringUpJob, devices: readonly BringUpDevice[]): Impossible {
  const reduced = reducedTo(job, devices)
  return {
    deviceIds: devices.map((device) => device.id),
    why: whyOf(reduced),
    help: firstThatHelp(changes(reduced)),
  }
}

/** More ways out than this are no help. */
const MOST_HELP = 3

/** The first ways out that were tried and work. */
function firstThatHelp(ways: ReturnType<typeof changes>): readonly string[] {
  const help: string[] = []
  for (const { say, change } of ways) {
    if (help.length === MOST_HELP) break
    if (!isImpossible(change)) help.push(say)
  }
  return help
}

function whyOf(job: BringUpJob): string {
  const [one, two] = job.devices
  const names = listed(job.devices.map(called))
  if (!one) return ''
  if (!two) return whyAlone(job, one)
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

/** Changes to a job that may help, each with its words. */
function changes(job: BringUpJob): readonly { readonly say: string; readonly change: BringUpJob }[] {
  const withDevice = (of: BringUpDevice, change: Partial<BringUpDevice>): BringUpJob => ({
    ...job,
    devices: job.devices.map((device) => (device === of ? { ...device, ...change } : device)),
  })
  const ownGroup = (of: BringUpDevice): BringUpJob => {
    const group = job.groups.find((each) => each.id === of.groupId)
    const id = `${of.groupId} apart`
    return group
      ? {
          ...withDevice(of, { groupId: id }),
          groups: [...job.groups, { ...group, id, chained: false, mustStayLive: false, live: false }],
        }
      : job
  }
  const rivals = (of: BringUpDevice) =>
    job.devices.some((device) => device !== of && device.target.address === of.target.address)
  const shared = (of: BringUpDevice) => job.devices.filter((device) => device.groupId === of.groupId).length > 1
  return [
    ...job.groups.flatMap((group) =>
      group.chained && job.devices.length > 1
        ? [
            {
              say: `Connect ${listed(job.devices.map(called))} one by one: a lead of its own for each, not one cable through all.`,
              change: {
                ...job,
                groups: job.groups.map((each) => (each === group ? { ...each, chained: false } : each)),
              },
            },
          ]
        : [],
    ),
    ...job.devices.flatMap((device) => [
      ...(rivals(device)
        ? [
            {
              say: `Plan another address for ${called(device)}.`,
              change: reducedTo(
                job,
                job.devices.filter((each) => each !== device),
              ),
            },
          ]
        : []),
      ...(shared(device)
        ? [{ say: `Separate ${called(device)} from ${device.groupId}.`, change: ownGroup(device) }]
        : []),
      ...(device.access === 'over-ip'
        ? [
            {
              say: `Set ${called(device)} at its keypad, switches or serial menu.`,
              change: withDevice(device, { access: 'local', reach: null }),
            },
          ]
        : []),
      ...(device.access !== 'lease'
        ? [
            {
              say: `Give ${called(device)} its address by a DHCP reservation.`,
              change: withDevice(device, { access: 'lease' }),
            },
          ]
        : []),
      ...(device.reach
        ? [
            {
              say: `Plan an address for ${called(device)} that its way of setting reaches, or set it another way.`,
              change: withDevice(device, { reach: null }),
            },
          ]
        : []),
    ]),
    ...job.groups.flatMap((group) =>
      group.mustStayLive
        ? [
            {
              say: `Agree on a moment when ${group.id} may be taken off.`,
              change: {
                ...job,
                groups: job.groups.map((each) => (each === group ? { ...each, mustStayLive: false } : each)),
              },
            },
          ]
        : [],
    ),
    ...(job.reserved.length > 0
      ? [{ say: 'Free a reserved address to be used for a moment.', change: { ...job, reserved: [] } }]
      : []),
  ]
}

/** How people call a device. */
export const called = (device: BringUpDevice): string => device.name ?? device.id

/** @example listed(['A', 'B', 'C']) // 'A, B and C' */
export function listed(names: readonly string[]): string {
  if (names.length < 2) return names.join('')
  return `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`
}

import { type BringUpDevice, type BringUpJob, type CompiledJob, compileJob, startState } from '../model'
import { isPlainlyPossible, searchFrom } from '../search'
import { reducedTo } from './reduced'
import { changes, type Change } from './ways'
import { whyOf } from './why'

/** The smallest set of devices that cannot be brought up together, and what would make it possible. */
export interface Impossible {
  readonly deviceIds: readonly string[]
  readonly why: string
  /** Each was tried on the set: with it, there is an order. */
  readonly help: readonly string[]
  /** Of these, devices that are not in the order and whose network lead, pulled, would do. */
  readonly leadsOf: readonly string[]
}

/** Sets tried before the search for the smallest one is given up. */
const MOST_TRIES = 4_000
/** States looked at for one set. */
const EFFORT = 20_000

/** Whether there is no order for a job; a job too large to say counts as possible. */
export function isImpossible(job: BringUpJob): boolean {
  const compiled = compileJob(job)
  const start = startState(compiled)
  if (isPlainlyPossible(compiled, start)) return false
  const found = searchFrom(compiled, start, { states: EFFORT })
  return !found.moves && found.proven
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
  // A set is somebody's trouble who is in the order: the others come in by hanging together with it.
  let sets: readonly (readonly number[])[] = job.devices.flatMap(({ frozen }, device) => (frozen ? [] : [[device]]))
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
    if (device.frozen) continue
    const other = wanted.get(device.target.address)
    if (other) return [other, device]
    wanted.set(device.target.address, device)
  }
  return undefined
}

/** Devices that cannot be brought up even alone, each with the reason. */
export function impossibleAlone(job: BringUpJob): readonly Impossible[] {
  return job.devices.flatMap((device) =>
    !device.frozen && isImpossible(reducedTo(job, [device])) ? [explainConflict(job, [device])] : [],
  )
}

/**
 * Devices that one cable and one breaker bring onto one address together, so that none of them can be alone: looked for
 * first and without a clock, because one such pair makes everything impossible. By address, with the reason.
 */
export function chainedTwins(job: BringUpJob): readonly Impossible[] {
  const together = new Map<string, BringUpDevice[]>()
  for (const device of job.devices) {
    const group = job.groups.find((each) => each.id === device.groupId)
    if (!group?.chained || !device.present) continue
    const key = `${group.id} ${device.present.address}`
    together.set(key, [...(together.get(key) ?? []), device])
  }
  return [...together.values()].flatMap((devices) => {
    const stuck = devices.filter((one) =>
      devices.some(
        (other) => other !== one && !(one.frozen && other.frozen) && isImpossible(reducedTo(job, [one, other])),
      ),
    )
    return stuck.length > 0 ? [explainConflict(job, stuck)] : []
  })
}

/**
 * Devices that cannot be done beside what is not in the order: beside those on their breaker, and those at an address
 * that they have or are to have. Each with a smallest set of them.
 */
export function besideFrozen(job: BringUpJob): readonly Impossible[] {
  const frozen = job.devices.filter((device) => device.frozen)
  if (frozen.length === 0) return []
  return job.devices.flatMap((device) => {
    if (device.frozen) return []
    const addresses = [device.present?.address, device.target.address]
    const near = frozen.filter(
      ({ groupId, present, pending }) =>
        groupId === device.groupId || addresses.includes(present?.address) || addresses.includes(pending?.address),
    )
    const set = reducedTo(job, [device, ...near])
    return near.length > 0 && isImpossible(set) ? [explainConflict(job, sparedDown(set))] : []
  })
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
  const helps = firstThatHelp(changes(reduced))
  return {
    deviceIds: devices.map((device) => device.id),
    why: whyOf(reduced),
    help: helps.map(({ say }) => say),
    leadsOf: helps.flatMap(({ leadOf }) => leadOf ?? []),
  }
}

/** More ways out than this are no help. */
const MOST_HELP = 3

/** The first ways out that were tried and work. */
function firstThatHelp(ways: readonly Change[]): readonly Change[] {
  const help: Change[] = []
  for (const way of ways) {
    if (help.length === MOST_HELP) break
    if (!isImpossible(way.change)) help.push(way)
  }
  return help
}

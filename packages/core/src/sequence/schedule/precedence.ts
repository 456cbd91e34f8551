import type { BringUpAction, BringUpJob } from '../model'
import { factsOf, type Facts } from './facts'

/** Which earlier actions one action has to wait for, and how long after their end. */
export interface Wait {
  /** Index of the earlier action. */
  readonly after: number
  readonly seconds: number
}

/**
 * What each action of an order really waits for. Two actions keep their order when one changes what the other stands
 * on: the same device, the same group, the laptop's subnets or cable, an address on the switch that one changes and the
 * other changes, speaks to or looks at. While devices of one group clash, nothing else comes or goes. What is put on, or
 * restarts, needs its start-up time before it is set, looked at or taken off again; whatever does not need it goes on
 * meanwhile.
 */
export function precedenceOf(job: BringUpJob, actions: readonly BringUpAction[]): readonly (readonly Wait[])[] {
  const facts = factsOf(job, actions)
  return facts.map((b, later) => {
    const waits: Wait[] = []
    for (let earlier = 0; earlier < later; earlier += 1) {
      const a = facts[earlier] as Facts
      if (keepOrder(a, b)) waits.push({ after: earlier, seconds: lagBetween(a, b) })
    }
    return waits
  })
}

function keepOrder(a: Facts, b: Facts): boolean {
  if (a.ends || b.opens) return true
  if (a.movesLaptop && (b.movesLaptop || b.usesLaptop)) return true
  if (b.movesLaptop && a.usesLaptop) return true
  if (a.devices.some((device) => b.devices.includes(device))) return true
  if (a.groups.some((group) => b.groups.includes(group)) && (a.power || b.power)) return true
  // Within a clash the setting that ends it is done when all before it are.
  if (b.ends && a.inside) return true
  if (meet(a.changes, b.changes) || meet(a.changes, b.meets) || meet(a.meets, b.changes)) return true
  return meet(a.holds, b.crowds) || meet(a.crowds, b.holds)
}

function meet(some: readonly number[], others: readonly number[]): boolean {
  if (others.length === 0) return false
  for (const each of some) if (others.includes(each)) return true
  return false
}

function lagBetween(a: Facts, b: Facts): number {
  if (a.startUp.size === 0) return 0
  if (b.kind === 'set' || b.kind === 'verify') return a.startUp.get(b.devices[0] ?? -1) ?? 0
  if (b.kind !== 'group-off') return 0
  return a.groups[0] === b.groups[0] ? Math.max(0, ...a.startUp.values()) : 0
}

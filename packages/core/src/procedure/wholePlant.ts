import { formatIpv4 } from '../address'
import type { BringUpAction, BringUpJob, HostAddress } from '../sequence'

/** Why a stop of the walk is not done as things are, and what would let it go on. */
export interface Held {
  readonly why: string
  readonly help: readonly string[]
  /** Devices whose network lead, pulled, ends the conflict. */
  readonly leadsOf: readonly string[]
}

/** A device that stands in the plant, walked or not: its breaker powers it and it holds its address all the same. */
interface Standing {
  readonly id: string
  readonly name: string
  readonly groupId: string
  readonly access: 'over-ip' | 'local' | 'lease'
  readonly walked: boolean
  leadPulled: boolean
  now: HostAddress | null
  pending: HostAddress | null
}

/**
 * Follows an order on the whole plant and says which of its actions wait. What was left out of the order is still
 * there: no breaker is put on, no address is set and no cable is put back while that would bring a device that is not
 * walked onto one address with another live one; nor is anything set or verified that cannot be told apart from it.
 *
 * @param given as things stand now, with every device that has an address
 * @param order what is still to be done
 * @returns by the place in `order`
 */
export function heldActions(given: BringUpJob, order: readonly BringUpAction[]): ReadonlyMap<number, Held> {
  const plant = new Plant(given, order)
  const held = new Map<number, Held>()
  order.forEach((action, index) => {
    const why = plant.take(action)
    if (why) held.set(index, why)
  })
  return held
}

class Plant {
  readonly #devices: readonly Standing[]
  readonly #live: Set<string>
  #cable = 'switch'
  /** Breakers that were not put on, and devices that were not set, because of a conflict. */
  readonly #off = new Set<string>()
  readonly #unset = new Set<string>()
  /** Nothing of the order was held back so far. */
  #isWhole = true

  constructor(given: BringUpJob, order: readonly BringUpAction[]) {
    const walked = new Set(order.flatMap((action) => ('deviceId' in action ? [action.deviceId] : [])))
    this.#live = new Set(given.groups.filter((group) => group.live).map((group) => group.id))
    this.#devices = given.devices.map((device): Standing => {
      const { id, groupId, access, target, present } = device
      const isLive = this.#live.has(groupId)
      const leased = access === 'lease'
      return {
        id,
        name: device.name ?? id,
        groupId,
        access,
        walked: walked.has(id),
        leadPulled: device.leadPulled ?? false,
        now: leased && !isLive ? target : present,
        pending: leased && isLive ? target : (device.pending ?? null),
      }
    })
  }

  /** Does an action, or says why it waits and leaves everything as it is. */
  take(action: BringUpAction): Held | undefined {
    const held = this.#taken(action)
    if (held) this.#isWhole = false
    return held
  }

  #taken(action: BringUpAction): Held | undefined {
    switch (action.kind) {
      case 'laptop':
        return undefined
      case 'group-off':
        this.#live.delete(action.groupId)
        return undefined
      case 'group-on':
        return this.#putOn(action.groupId)
      case 'cable':
        return this.#plug(action.into)
      case 'lead-out':
      case 'lead-in':
        return this.#moveLead(action.deviceId, action.kind === 'lead-out')
      case 'set':
        return this.#set(action)
      case 'verify':
        return this.#verify(action.deviceId)
    }
  }

  #putOn(groupId: string): Held | undefined {
    if (this.#live.has(groupId)) return undefined
    const members = this.#devices.filter((device) => device.groupId === groupId)
    const before = members.map((device) => ({ device, now: device.now, pending: device.pending }))
    const clashes = this.#newClashes(() => {
      this.#live.add(groupId)
      for (const device of members) {
        device.now = device.pending ?? device.now
        device.pending = null
      }
    })
    if (clashes.length === 0) return undefined
    // Said before all is put back: the address is the one at which they would meet.
    const held = heldBy(`${groupId} stays off`, clashes)
    this.#live.delete(groupId)
    this.#off.add(groupId)
    for (const { device, now, pending } of before) Object.assign(device, { now, pending })
    return held
  }

  /** The cable straight into a device takes its lead out; coming back it puts it in. */
  #plug(into: string): Held | undefined {
    const before = this.#cable
    const concerned = this.#devices.filter((device) => device.id === before || device.id === into)
    const pulled = concerned.map((device) => device.leadPulled)
    const clashes = this.#newClashes(() => {
      this.#cable = into
      for (const device of concerned) device.leadPulled = false
    })
    if (clashes.length === 0) return undefined
    const held = heldBy('The cable stays where it is', clashes)
    this.#cable = before
    concerned.forEach((device, k) => (device.leadPulled = pulled[k] ?? false))
    return held
  }

  #moveLead(deviceId: string, out: boolean): Held | undefined {
    const device = this.#devices.find((each) => each.id === deviceId)
    if (!device) return undefined
    const before = device.leadPulled
    const clashes = this.#newClashes(() => {
      device.leadPulled = out
    })
    if (clashes.length === 0) return undefined
    const held = heldBy(`The network lead of ${device.name} stays out`, clashes)
    device.leadPulled = before
    return held
  }

  #set(action: Extract<BringUpAction, { kind: 'set' }>): Held | undefined {
    const device = this.#devices.find((each) => each.id === action.deviceId)
    if (!device) return undefined
    const off = this.#notLive(device)
    const twins = device.access === 'over-ip' ? this.#clashes().filter((pair) => pair.includes(device)) : []
    if (off ?? twins.length > 0) this.#unset.add(device.id)
    if (off) return off
    if (twins.length > 0) return heldBy(`${device.name} is not set`, twins)
    if (action.pending) {
      device.pending = action.to
      return undefined
    }
    const before = device.now
    const clashes = this.#newClashes(() => {
      device.now = action.to
    })
    if (clashes.length === 0) return undefined
    const held = heldBy(`${device.name} is not set`, clashes)
    device.now = before
    this.#unset.add(device.id)
    return held
  }

  #verify(deviceId: string): Held | undefined {
    const device = this.#devices.find((each) => each.id === deviceId)
    if (!device) return undefined
    const off = this.#notLive(device)
    if (off) return off
    const twins = this.#clashes().filter((pair) => pair.includes(device))
    if (twins.length > 0) return heldBy(`${device.name} cannot be told apart`, twins)
    if (this.#unset.has(device.id))
      return { why: `${device.name} is not at its planned address: what sets it waits.`, help: [], leadsOf: [] }
    return undefined
  }

  #notLive(device: Standing): Held | undefined {
    if (!this.#off.has(device.groupId)) return undefined
    return { why: `${device.name} has no power: ${device.groupId} waits.`, help: [], leadsOf: [] }
  }

  /**
   * Pairs on one address of which at least one is not walked. What only walked ones do to each other is the order's, as
   * long as all of it is done.
   */
  #clashes(): readonly Pair[] {
    const heard = this.#devices.filter(
      (device) => device.now && this.#live.has(device.groupId) && !device.leadPulled && this.#cable !== device.id,
    )
    const byAddress = new Map<number, Standing[]>()
    for (const device of heard) {
      const at = device.now?.address ?? 0
      byAddress.set(at, [...(byAddress.get(at) ?? []), device])
    }
    return [...byAddress.values()].flatMap((group) =>
      group.flatMap((a, k) =>
        group.slice(k + 1).flatMap((b) => (a.walked && b.walked && this.#isWhole ? [] : [[a, b] as const])),
      ),
    )
  }

  #newClashes(change: () => void): readonly Pair[] {
    const before = new Set(this.#clashes().map(([a, b]) => `${a.id} ${b.id}`))
    change()
    return this.#clashes().filter(([a, b]) => !before.has(`${a.id} ${b.id}`))
  }
}

type Pair = readonly [Standing, Standing]

/** More than so many ways out are no help. */
const MOST_HELP = 3

function heldBy(what: string, clashes: readonly Pair[]): Held {
  const [first] = clashes
  if (!first) return { why: what, help: [], leadsOf: [] }
  const [a, b] = first
  const address = a.now ? formatIpv4(a.now.address) : ''
  const more = clashes.length > 1 ? ` (and ${clashes.length - 1} more)` : ''
  const apart = [...new Set(clashes.map((pair) => (pair[0].walked ? pair[1] : pair[0])))]
  const names = apart.map((device) => device.name)
  return {
    why: `${what}: ${a.name} and ${b.name} would both be live at ${address}${more}, and ${names.join(', ')} ${names.length === 1 ? 'is' : 'are'} not in the order.`,
    help: [
      `Pull the network lead of ${names.join(' and of ')} first, and say so here.`,
      ...apart.map((device) => `Give ${device.name} another address while nothing else at ${address} has power.`),
      ...apart.map((device) => `Put ${device.name} on a breaker of its own.`),
    ].slice(0, MOST_HELP),
    leadsOf: apart.map((device) => device.id),
  }
}

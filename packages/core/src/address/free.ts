import { ipv4FromBits, type Ipv4 } from './ipv4'
import { inRange, joinRanges, type AddressRange } from './range'
import { hostsOf, type Subnet } from './subnet'

/** What may not be given away. */
export interface Taken {
  readonly addresses: ReadonlySet<Ipv4>
  readonly ranges: readonly AddressRange[]
}

/**
 * Free host addresses, lowest first, as they are asked for. Ranges are skipped whole, so a large reserved block
 * costs one step.
 * @param within only addresses of this range, for example a block kept for drives
 */
export function* freeAddresses(subnet: Subnet, taken: Taken, within?: AddressRange): Generator<Ipv4> {
  const hosts = hostsOf(subnet)
  const last = within ? Math.min(hosts.last, within.last) : hosts.last
  const blocked = joinRanges(taken.ranges)
  let candidate: number = within ? Math.max(hosts.first, within.first) : hosts.first
  while (candidate <= last) {
    const address = ipv4FromBits(candidate)
    const range = blocked.find((blockedRange) => inRange(blockedRange, address))
    if (range) {
      candidate = range.last + 1
      continue
    }
    if (!taken.addresses.has(address)) yield address
    candidate += 1
  }
}

/** The first free address from `near` upwards, else the nearest one below; `undefined` when every one is taken. */
export function freeAddressNear(subnet: Subnet, taken: Taken, near: Ipv4): Ipv4 | undefined {
  const hosts = hostsOf(subnet)
  if (near <= hosts.last) {
    const above = freeAddresses(subnet, taken, { first: near, last: hosts.last }).next()
    if (!above.done) return above.value
  }
  const blocked = joinRanges(taken.ranges)
  for (let candidate: number = Math.min(near, hosts.last + 1) - 1; candidate >= hosts.first; candidate -= 1) {
    const address = ipv4FromBits(candidate)
    const range = blocked.find((kept) => inRange(kept, address))
    if (range) candidate = range.first
    else if (!taken.addresses.has(address)) return address
  }
  return undefined
}

/** How many host addresses are neither taken nor in a range that is kept. */
export function freeCount(subnet: Subnet, taken: Taken): number {
  const hosts = hostsOf(subnet)
  const blocked = joinRanges(taken.ranges)
  const kept = blocked.reduce(
    (sum, range) => sum + Math.max(0, Math.min(range.last, hosts.last) - Math.max(range.first, hosts.first) + 1),
    0,
  )
  const held = [...taken.addresses].filter(
    (address) => inRange(hosts, address) && !blocked.some((range) => inRange(range, address)),
  )
  return hosts.last - hosts.first + 1 - kept - held.length
}

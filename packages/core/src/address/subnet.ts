import { ok, refusal, type Result } from '../units'
import { formatIpv4, ipv4FromBits, parseIpv4, type Ipv4 } from './ipv4'
import { maskOf, parseMask, type PrefixLength } from './prefix'
import type { AddressRange } from './range'

/** A network: its first address and the length of its network part. Host bits of `base` are zero. */
export interface Subnet {
  readonly base: Ipv4
  readonly prefix: PrefixLength
}

/** The subnet that an address with its mask lies in. */
export function subnetOf(address: Ipv4, prefix: PrefixLength): Subnet {
  return { base: ipv4FromBits((address & maskOf(prefix)) >>> 0), prefix }
}

/** The last address: the broadcast address, except in a /31 or /32. */
export function lastAddress(subnet: Subnet): Ipv4 {
  return ipv4FromBits(subnet.base + 2 ** (32 - subnet.prefix) - 1)
}

/** First and last address of the block, hosts or not. */
export function blockOf(subnet: Subnet): AddressRange {
  return { first: subnet.base, last: lastAddress(subnet) }
}

/**
 * Addresses that hosts may have. A /31 has two and no broadcast address, a /32 one.
 * @source RFC 3021 (31-bit prefixes); RFC 1122 3.2.1.3 (network and broadcast address are no hosts)
 */
export function hostsOf(subnet: Subnet): AddressRange {
  if (subnet.prefix >= 31) return blockOf(subnet)
  return { first: ipv4FromBits(subnet.base + 1), last: ipv4FromBits(lastAddress(subnet) - 1) }
}

/** How many hosts fit. @example hostCount of a /24 is 254, of a /31 2, of a /32 1 */
export function hostCount(subnet: Subnet): number {
  const hosts = hostsOf(subnet)
  return hosts.last - hosts.first + 1
}

export function contains(subnet: Subnet, address: Ipv4): boolean {
  return (address & maskOf(subnet.prefix)) >>> 0 === subnet.base
}

/** What an address is within its subnet. */
export function placeIn(subnet: Subnet, address: Ipv4): 'outside' | 'network' | 'broadcast' | 'host' {
  if (!contains(subnet, address)) return 'outside'
  if (subnet.prefix >= 31) return 'host'
  if (address === subnet.base) return 'network'
  return address === lastAddress(subnet) ? 'broadcast' : 'host'
}

/** Two CIDR blocks overlap only when one holds the other. */
export function subnetsOverlap(a: Subnet, b: Subnet): boolean {
  return contains(a, b.base) || contains(b, a.base)
}

/** @example formatSubnet(...) // '10.20.40.0/24' */
export function formatSubnet(subnet: Subnet): string {
  return `${formatIpv4(subnet.base)}/${subnet.prefix}`
}

const EXPECTED = 'a network such as 10.20.40.0/24'

/**
 * Reads a network in CIDR notation, or as address and dotted mask (`10.20.40.0 255.255.255.0`). Host bits that are set are refused with the
 * network that was probably meant.
 * @source RFC 4632 3.1
 */
export function parseSubnet(text: string): Result<Subnet> {
  const typed = text.trim()
  if (typed === '') return refusal('subnet.blank', 'The network is blank.', 'nothing', EXPECTED)
  const halves = /^([^/\s]+)\s*(?:\/|\s)\s*([^/\s]+)$/.exec(typed)
  if (!halves) {
    const bare = parseIpv4(typed)
    const offers = bare.ok
      ? [{ label: `Use ${typed}/24`, value: formatSubnet(subnetOf(bare.value, 24 as PrefixLength)) }]
      : []
    return refusal('subnet.no-mask', `"${typed}" has no mask after the address.`, typed, EXPECTED, offers)
  }
  const address = parseIpv4(halves[1] ?? '')
  if (!address.ok) {
    const offers = address.refusal.offers.map((offer) => ({
      label: `Use ${offer.value}/${halves[2]}`,
      value: `${offer.value}/${halves[2]}`,
    }))
    return refusal('subnet.address', address.refusal.what, typed, EXPECTED, offers)
  }
  const prefix = parseMask(halves[2] ?? '')
  if (!prefix.ok) return refusal('subnet.mask', prefix.refusal.what, typed, EXPECTED)
  const subnet = subnetOf(address.value, prefix.value)
  if (subnet.base !== address.value) {
    const value = formatSubnet(subnet)
    return refusal(
      'subnet.host-bits',
      `${typed} is an address in the network ${value}, not the network itself.`,
      typed,
      EXPECTED,
      [{ label: `Use ${value}`, value }],
    )
  }
  return ok(subnet)
}

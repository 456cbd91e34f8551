import { ipv4FromOctets, octetsOf, type Ipv4 } from './ipv4'
import { isPrivate } from './special'
import { contains, placeIn, type Subnet } from './subnet'
import { slipsBetween } from './typing'

type Octets = readonly [number, number, number, number]

interface Candidate {
  readonly address: Ipv4
  /** Slips of typing between the octet as it stands and as it was probably meant. */
  readonly slips: number
  readonly apart: number
}

/**
 * Addresses that were probably meant when one octet was mistyped: the same octets but one, and a host of one of the
 * networks of the plan. Any of the four octets may be the wrong one. When no network of the plan fits, the same host in
 * a private block that is one slip away: 193.168.20.14 for 192.168.20.14, 127.16.4.20 for 172.16.4.20.
 *
 * @param isFree whether a candidate may be given away at all; only such are returned
 * @returns likeliest first: nearest by typing, then by number
 * @source common practice, no source: the classic mistyped first octet
 */
export function likelyIntended(
  address: Ipv4,
  networks: readonly Subnet[],
  isFree: (candidate: Ipv4) => boolean = () => true,
): readonly Ipv4[] {
  const octets = octetsOf(address)
  const inPlan = networks
    .filter((network) => !contains(network, address))
    .flatMap((network) => withOneOctetOf(network, octets))
  const found = (inPlan.length > 0 ? inPlan : inPrivateBlocks(octets)).filter((each) => isFree(each.address))
  const sorted = found.sort((a, b) => a.slips - b.slips || a.apart - b.apart || a.address - b.address)
  return [...new Set(sorted.map((each) => each.address))]
}

/** In one octet: two slips come after one, not instead of it. */
const MOST_SLIPS = 2

/** Hosts of a network that differ in one octet: by few slips, or by anything where the network fixes that octet. */
function withOneOctetOf(network: Subnet, octets: Octets): readonly Candidate[] {
  return [0, 1, 2, 3].flatMap((k) => {
    const inside = everyOctet.filter((value) => contains(network, withOctet(octets, k, value)))
    return inside
      .filter((value) => placeIn(network, withOctet(octets, k, value)) === 'host')
      .map((value) => candidate(octets, k, value))
      .filter(({ slips }) => inside.length === 1 || slips <= MOST_SLIPS)
  })
}

/** Without a network nothing is known of its hosts; .0 and .255 are mostly none. */
function inPrivateBlocks(octets: Octets): readonly Candidate[] {
  if (octets[3] === 0 || octets[3] === 255) return []
  const first = [10, 172, 192]
    .map((value) => ({ value, ...candidate(octets, 0, value) }))
    .filter(({ value, slips }) => slips === 1 || otherDigits(String(octets[0]), String(value)) === 1)
  const blocks = octets[0] === 192 ? [168] : octets[0] === 172 ? everyOctet.slice(16, 32) : []
  const second = blocks.map((value) => candidate(octets, 1, value)).filter(({ slips }) => slips === 1)
  return [...first, ...second].filter(({ address, slips }) => slips > 0 && isPrivate(address))
}

/** One digit that is plainly another one (172 for 192) counts too, after the slips. */
const otherDigits = (a: string, b: string): number =>
  a.length === b.length ? [...a].filter((digit, k) => digit !== b[k]).length : Infinity

const everyOctet: readonly number[] = Array.from({ length: 256 }, (_, value) => value)

function withOctet(octets: Octets, index: number, value: number): Ipv4 {
  const changed: [number, number, number, number] = [...octets]
  changed[index] = value
  return ipv4FromOctets(changed)
}

function candidate(octets: Octets, index: number, value: number): Candidate {
  const before = octets[index] ?? 0
  return {
    address: withOctet(octets, index, value),
    slips: slipsBetween(String(before), String(value)),
    apart: Math.abs(before - value),
  }
}

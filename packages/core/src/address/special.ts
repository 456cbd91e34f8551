import { ipv4, type Ipv4 } from './ipv4'
import { prefixLength } from './prefix'
import { contains, formatSubnet, type Subnet } from './subnet'

/** A block that standards keep for one purpose. */
export interface SpecialBlock {
  readonly subnet: Subnet
  readonly name: string
  readonly kind: 'private' | 'link-local' | 'documentation' | 'loopback' | 'multicast' | 'other'
  /** Whether a device on a plant network may hold such an address for good. */
  readonly suitsDevices: boolean
  readonly source: string
}

const block = (
  cidr: string,
  name: string,
  kind: SpecialBlock['kind'],
  source: string,
  suitsDevices = false,
): SpecialBlock => {
  const [base = '', bits] = cidr.split('/')
  return { subnet: { base: ipv4(base), prefix: prefixLength(Number(bits)) }, name, kind, suitsDevices, source }
}

/** Special-purpose blocks, smaller ones before the larger ones that hold them. */
export const specialBlocks: readonly SpecialBlock[] = [
  block('255.255.255.255/32', 'limited broadcast', 'other', 'RFC 6890 table 16; RFC 919'),
  block('192.0.0.0/29', 'dual-stack service continuity', 'other', 'RFC 6890 table 7; RFC 7335'),
  block('192.0.0.0/24', 'protocol assignments', 'other', 'RFC 6890 table 7'),
  block('192.0.2.0/24', 'documentation 1', 'documentation', 'RFC 5737'),
  block('198.51.100.0/24', 'documentation 2', 'documentation', 'RFC 5737'),
  block('203.0.113.0/24', 'documentation 3', 'documentation', 'RFC 5737'),
  block('192.88.99.0/24', 'former relay anycast', 'other', 'RFC 6890 table 10; RFC 7526'),
  block('192.168.0.0/16', 'private', 'private', 'RFC 1918', true),
  block('169.254.0.0/16', 'link-local', 'link-local', 'RFC 3927'),
  block('198.18.0.0/15', 'benchmarking of networks', 'other', 'RFC 6890 table 12; RFC 2544'),
  block('172.16.0.0/12', 'private', 'private', 'RFC 1918', true),
  block('100.64.0.0/10', 'shared by carriers', 'other', 'RFC 6890 table 3; RFC 6598'),
  block('10.0.0.0/8', 'private', 'private', 'RFC 1918', true),
  block('0.0.0.0/8', 'this network', 'other', 'RFC 6890 table 1; RFC 1122'),
  block('127.0.0.0/8', 'loopback', 'loopback', 'RFC 6890 table 4; RFC 1122'),
  block('224.0.0.0/4', 'multicast', 'multicast', 'RFC 5771'),
  block('240.0.0.0/4', 'reserved', 'other', 'RFC 6890 table 15; RFC 1112'),
]

/** The smallest special block that holds the address, or `undefined` for an ordinary public one. */
export function specialBlockOf(address: Ipv4): SpecialBlock | undefined {
  return specialBlocks.find((special) => contains(special.subnet, address))
}

export function isPrivate(address: Ipv4): boolean {
  return specialBlockOf(address)?.kind === 'private'
}

/** In no special block at all: belongs to somebody on the internet. */
export function isPublic(address: Ipv4): boolean {
  return specialBlockOf(address) === undefined
}

/** @example describeBlock(...) // 'link-local (169.254.0.0/16, RFC 3927)' */
export function describeBlock(special: SpecialBlock): string {
  return `${special.name} (${formatSubnet(special.subnet)}, ${special.source})`
}

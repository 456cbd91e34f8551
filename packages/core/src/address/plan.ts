import type { Ipv4 } from './ipv4'
import type { PrefixLength } from './prefix'
import type { AddressRange } from './range'
import type { Subnet } from './subnet'

export interface PlannedNetwork {
  readonly id: string
  readonly name: string
  readonly subnet: Subnet
  readonly gateway?: Ipv4 | undefined
  /** Ranges that the DHCP server gives out. */
  readonly dhcp: readonly AddressRange[]
  /** Ranges kept back, for example for switches and laptops. */
  readonly reserved: readonly AddressRange[]
}

/** One network port of a device. A device with two ports has two of these. */
export interface PlannedPort {
  readonly id: string
  /** How people call it: the device's tag, with the port's name where the device has several. */
  readonly tag: string
  readonly networkId?: string | undefined
  readonly address?: Ipv4 | undefined
  /** The device's own mask; where it is left out the mask of its network counts. */
  readonly prefix?: PrefixLength | undefined
  readonly gateway?: Ipv4 | undefined
  /** Hardware address, in one notation. */
  readonly mac?: string | undefined
  /** Given by a DHCP server by hardware address: it may lie in that server's range. */
  readonly leased?: boolean | undefined
  /** Seen at this address by live evidence: never moved by a proposal. */
  readonly proven: boolean
}

/** One address that the laptop holds now. */
export interface LaptopAddress {
  readonly interfaceName: string
  readonly address: Ipv4
  readonly prefix: PrefixLength
}

/** Everything the address rules look at. */
export interface Plan {
  readonly networks: readonly PlannedNetwork[]
  readonly ports: readonly PlannedPort[]
  readonly laptop: readonly LaptopAddress[]
}

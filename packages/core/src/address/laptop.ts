import { parseIpv4 } from './ipv4'
import type { LaptopAddress } from './plan'
import { prefixLength } from './prefix'

/** An interface of this laptop as its system names it. */
export interface InterfaceEntry {
  readonly name: string
  readonly address: string
  readonly prefix: number
  readonly loopback: boolean
}

/** The laptop's addresses as the rules look at them: loopback does not count. */
export function laptopAddresses(interfaces: readonly InterfaceEntry[]): readonly LaptopAddress[] {
  return interfaces
    .filter((entry) => !entry.loopback)
    .flatMap((entry) => {
      const address = parseIpv4(entry.address)
      return address.ok
        ? [{ interfaceName: entry.name, address: address.value, prefix: prefixLength(entry.prefix) }]
        : []
    })
}

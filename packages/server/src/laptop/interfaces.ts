import { networkInterfaces } from 'node:os'
import type { LaptopInterface } from '@calm/contract'
import { parseIpv4, prefixLength, type LaptopAddress } from '@calm/core/address'

/** The laptop's IPv4 interfaces as they are now. */
export function laptopInterfaces(): readonly LaptopInterface[] {
  return Object.entries(networkInterfaces()).flatMap(([name, entries = []]) =>
    entries
      .filter((entry) => entry.family === 'IPv4')
      .map((entry) => ({
        name,
        address: entry.address,
        prefix: Number(entry.cidr?.split('/')[1] ?? 32),
        loopback: entry.internal,
        hardwareAddress: entry.mac,
      })),
  )
}

/** The same for the address rules: real interfaces only. */
export function laptopAddresses(interfaces: readonly LaptopInterface[]): readonly LaptopAddress[] {
  return interfaces
    .filter((entry) => !entry.loopback)
    .flatMap((entry) => {
      const address = parseIpv4(entry.address)
      return address.ok
        ? [{ interfaceName: entry.name, address: address.value, prefix: prefixLength(entry.prefix) }]
        : []
    })
}

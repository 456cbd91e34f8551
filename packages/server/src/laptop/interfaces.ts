import { networkInterfaces } from 'node:os'
import type { LaptopInterface } from '@calm/contract'

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

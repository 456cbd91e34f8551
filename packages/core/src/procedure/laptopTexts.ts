import { formatIpv4, formatMask } from '../address'
import type { HostAddress } from '../sequence'

/** What to type to put a laptop's wired adapter into a subnet, and how to put it back, on one operating system. */
export interface LaptopText {
  readonly system: string
  readonly set: readonly string[]
  readonly putBack: readonly string[]
}

/**
 * Commands for the three common operating systems. The adapter's name differs from laptop to laptop: it stands in the
 * text as given.
 * @source manuals of `netsh`, `networksetup` and `ip` (iproute2), from memory
 */
export function laptopTexts(to: HostAddress, adapter: string): readonly LaptopText[] {
  const address = formatIpv4(to.address)
  const mask = formatMask(to.prefix)
  return [
    {
      system: 'Windows',
      set: [`netsh interface ip set address "${adapter}" static ${address} ${mask}`],
      putBack: [`netsh interface ip set address "${adapter}" dhcp`],
    },
    {
      system: 'macOS',
      set: [`networksetup -setmanual "${adapter}" ${address} ${mask}`],
      putBack: [`networksetup -setdhcp "${adapter}"`],
    },
    {
      system: 'Linux',
      set: [`sudo ip addr add ${address}/${to.prefix} dev ${adapter}`, `sudo ip link set ${adapter} up`],
      putBack: [`sudo ip addr del ${address}/${to.prefix} dev ${adapter}`],
    },
  ]
}

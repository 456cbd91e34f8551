import { contains, parseIpv4, parseSubnet, placeIn } from '../address'
import type { Change } from '../changes'
import type { Job, Network } from '../job'

/** What a network takes in: ports with a planned address in it that say no network yet. */
export interface Adopted {
  readonly changes: readonly Change[]
  readonly deviceCount: number
}

/**
 * Ports that come into a network when it is added, or gets another block: those that lie in it as a host and say none. A
 * port without a gateway takes that of the network, as a new one in it would.
 */
export function adoptedBy(job: Job, network: Pick<Network, 'id' | 'cidr' | 'gateway'>): Adopted {
  const subnet = parseSubnet(network.cidr)
  if (!subnet.ok) return { changes: [], deviceCount: 0 }
  const isHeld = (text: string | null) => {
    const address = parseIpv4(text ?? '')
    return address.ok && contains(subnet.value, address.value) && placeIn(subnet.value, address.value) === 'host'
  }
  const devices = job.devices.map(({ ports }) =>
    ports.filter((port) => port.networkId === null && isHeld(port.address)),
  )
  return {
    deviceCount: devices.filter((ports) => ports.length > 0).length,
    changes: devices.flat().map(({ id, version, gateway }) => ({
      op: 'set',
      table: 'port',
      id,
      version,
      fields: { networkId: network.id, ...(gateway === null && network.gateway ? { gateway: network.gateway } : {}) },
    })),
  }
}

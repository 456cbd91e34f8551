import { parseIpv4, parseRanges, parseSubnet, prefixLength, type Ipv4, type LaptopAddress, type Plan } from '../address'
import { handshakeLadderOf, type LadderOf } from './handshakeLadder'
import type { Handshake, Job } from './model'
import { schoolOf } from './settings'

const addressOrNone = (text: string | null): Ipv4 | undefined => {
  const read = text === null ? undefined : parseIpv4(text)
  return read?.ok ? read.value : undefined
}

/** The address rules' view of a job. Texts that cannot be read were refused when they were typed. */
export function addressPlanOf(
  job: Job,
  laptop: readonly LaptopAddress[],
  ladderFor: LadderOf = handshakeLadderOf,
): Plan {
  const reached = new Set(
    job.handshakes.filter((handshake) => isReached(job, handshake, ladderFor)).map((handshake) => handshake.deviceId),
  )
  return {
    laptop,
    networks: job.networks.flatMap((network) => {
      const subnet = parseSubnet(network.cidr)
      if (!subnet.ok) return []
      const dhcp = parseRanges(network.dhcp)
      const reserved = parseRanges(network.reserved)
      return [
        {
          id: network.id,
          name: network.name,
          subnet: subnet.value,
          gateway: addressOrNone(network.gateway),
          dhcp: dhcp.ok ? dhcp.value : [],
          reserved: reserved.ok ? reserved.value : [],
        },
      ]
    }),
    ports: job.devices.flatMap((device) =>
      device.ports.map((port) => ({
        id: port.id,
        tag: device.ports.length > 1 ? `${device.tag} ${port.name}` : device.tag,
        networkId: port.networkId ?? undefined,
        address: addressOrNone(port.address),
        prefix: port.prefix === null ? undefined : prefixLength(port.prefix),
        gateway: addressOrNone(port.gateway),
        mac: port.mac ?? undefined,
        leased: schoolOf(job, port) === 'dhcp-reservation',
        proven: reached.has(device.id),
      })),
    ),
  }
}

/** Evidence that still applies: after a move the device is not proven at its new address. */
function isReached(job: Job, handshake: Handshake, ladderFor: LadderOf): boolean {
  if (!handshake.evidence.some((each) => each.rung === 'reached')) return false
  return ladderFor(job, handshake).rungs.some((rung) => rung.rung === 'reached' && rung.state === 'proven')
}

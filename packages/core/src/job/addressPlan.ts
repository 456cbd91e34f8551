import { parseIpv4, parseRanges, parseSubnet, prefixLength, type Ipv4, type LaptopAddress, type Plan } from '../address'
import { evidenceOf } from './evidenceOf'
import { handshakeLadderOf, type LadderOf } from './handshakeLadder'
import type { Handshake, Job } from './model'
import { schoolOf } from './settings'

/** Addresses that were read before: a plan is made again after every edit, and nearly all of it is the same. */
const readBefore = new Map<string, Ipv4 | undefined>()
const MOST_READ = 50_000

function addressOrNone(text: string | null): Ipv4 | undefined {
  if (text === null) return undefined
  if (readBefore.has(text)) return readBefore.get(text)
  const reading = parseIpv4(text)
  const address = reading.ok ? reading.value : undefined
  if (readBefore.size >= MOST_READ) readBefore.clear()
  readBefore.set(text, address)
  return address
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
  if (!evidenceOf(job, handshake).some((each) => each.rung === 'reached')) return false
  return ladderFor(job, handshake).rungs.some((rung) => rung.rung === 'reached' && rung.state === 'proven')
}

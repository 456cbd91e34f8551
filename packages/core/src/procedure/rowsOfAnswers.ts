import { contains, formatIpv4, ipv4, parseSubnet, subnetOf, hostCount, prefixLength, formatSubnet } from '../address'
import type { Change } from '../changes'
import { blankDevice, blankPort, deviceFields, type Job } from '../job'
import type { LaptopState } from './nothingAnswers'
import type { SweepLine } from './sweep'

/** A subnet that the laptop is in, with the adapter that is. */
export interface NearSubnet {
  readonly adapter: string
  readonly cidr: string
  readonly hosts: number
}

/** The subnets of the laptop that are plugged in and are not loopback, each once, the smallest first. */
export function nearSubnets(laptop: LaptopState): readonly NearSubnet[] {
  const found = new Map<string, NearSubnet>()
  for (const { name, address, prefix, link, loopback } of laptop.interfaces) {
    if (loopback || link === false) continue
    const subnet = subnetOf(ipv4(address), prefixLength(prefix))
    const cidr = formatSubnet(subnet)
    if (!found.has(cidr)) found.set(cidr, { adapter: name, cidr, hosts: hostCount(subnet) })
  }
  return [...found.values()].sort((a, b) => a.hosts - b.hosts)
}

/** As much as the field for what a device is holds. */
const MOST_WORDS = deviceFields.what.type.is === 'text' ? deviceFields.what.type.most : 0

/**
 * A device for each answer that nobody planned: a tag from its address, what it says of itself, the port that is open.
 * @param newId makes the id of each row
 */
export function devicesOfAnswers(job: Job, lines: readonly SweepLine[], newId: () => string): readonly Change[] {
  const tags = new Set(job.devices.map((device) => device.tag))
  const holders = new Set(job.devices.flatMap((device) => device.ports.map((port) => port.address)))
  let position = job.devices.reduce((most, device) => Math.max(most, device.position), 0)
  return lines.flatMap(({ address, verdict, answer }): readonly Change[] => {
    if (verdict !== 'unknown' || !answer || holders.has(address)) return []
    const at = ipv4(address)
    const network = job.networks.find(({ cidr }) => {
      const subnet = parseSubnet(cidr)
      return subnet.ok && contains(subnet.value, at)
    })
    const tag = freeTag(`At ${formatIpv4(at)}`, tags)
    tags.add(tag)
    position += 1
    const id = newId()
    const what = answer.identities.join(' and ').slice(0, MOST_WORDS)
    const device = { ...blankDevice, position, tag, what, kind: 'meter', unitId: 1 }
    const port = {
      ...blankPort,
      deviceId: id,
      networkId: network?.id ?? null,
      address,
      gateway: network?.gateway ?? null,
      tcpPort: answer.ports.includes(blankPort.tcpPort) ? blankPort.tcpPort : (answer.ports[0] ?? blankPort.tcpPort),
      mac: answer.hardwareAddress,
    }
    return [
      { op: 'add', table: 'device', id, fields: device },
      { op: 'add', table: 'port', id: newId(), fields: port },
    ]
  })
}

function freeTag(wanted: string, taken: ReadonlySet<string>): string {
  for (let k = 1; ; k += 1) {
    const tag = k === 1 ? wanted : `${wanted} (${k})`
    if (!taken.has(tag)) return tag
  }
}

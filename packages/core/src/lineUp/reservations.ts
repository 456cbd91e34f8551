import { parseHostName } from '../identity'
import { csvText } from '../table'
import { schoolOf, type Job, type Network } from '../job'

/** One address that a DHCP server is to give by hardware address. */
export interface Reservation {
  readonly tag: string
  readonly hostName: string
  readonly mac: string
  readonly address: string
  readonly network: Network
}

/** Reservations of a job, and what keeps others from being one. */
export function reservationsOf(job: Job): {
  readonly ready: readonly Reservation[]
  readonly lacking: readonly { readonly tag: string; readonly what: string }[]
} {
  const ready: Reservation[] = []
  const lacking: { tag: string; what: string }[] = []
  for (const device of job.devices) {
    for (const port of device.ports) {
      if (schoolOf(job, port) !== 'dhcp-reservation') continue
      const network = job.networks.find((each) => each.id === port.networkId)
      const tag = device.ports.length > 1 ? `${device.tag} ${port.name}` : device.tag
      if (!network) lacking.push({ tag, what: 'no network' })
      else if (port.address === null) lacking.push({ tag, what: 'no planned address' })
      else if (port.mac === null) lacking.push({ tag, what: 'no hardware address' })
      else
        ready.push({ tag, hostName: hostNameFor(device.hostName, tag), mac: port.mac, address: port.address, network })
    }
  }
  return { ready, lacking }
}

/** A name that a server takes: the planned one, else one made from the tag. */
function hostNameFor(planned: string, tag: string): string {
  if (planned !== '' && parseHostName(planned).ok) return planned
  return tag
    .toLowerCase()
    .replace(/[^a-z0-9-]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 63)
}

interface ReservationFormat {
  readonly name: string
  readonly extension: string
  readonly write: (reservations: readonly Reservation[]) => string
  readonly source: string
}

export type ReservationFormatId = 'csv' | 'dhcpd' | 'kea' | 'dnsmasq'

/** Reservation lists as the common open DHCP servers read them. @source the manual page of each */
export const reservationFormats: Readonly<Record<ReservationFormatId, ReservationFormat>> = {
  csv: {
    name: 'CSV',
    extension: 'csv',
    source: 'RFC 4180',
    write: (list) =>
      csvText([
        ['tag', 'host name', 'hardware address', 'address', 'network'],
        ...list.map((each) => [each.tag, each.hostName, each.mac, each.address, each.network.cidr]),
      ]),
  },
  dhcpd: {
    name: 'ISC dhcpd.conf',
    extension: 'conf',
    source: 'dhcpd.conf(5), "The host statement" (from memory)',
    write: (list) =>
      list
        .map(
          (each) =>
            `# ${oneLine(each.tag)}\nhost ${each.hostName} {\n  hardware ethernet ${each.mac.toLowerCase()};\n  fixed-address ${each.address};\n}\n`,
        )
        .join('\n'),
  },
  kea: {
    name: 'Kea (JSON)',
    extension: 'json',
    source: 'Kea Administrator Reference, "Host Reservations in DHCPv4" (from memory)',
    write: (list) => `${JSON.stringify({ Dhcp4: { subnet4: keaSubnets(list) } }, null, 2)}\n`,
  },
  dnsmasq: {
    name: 'dnsmasq',
    extension: 'conf',
    source: 'dnsmasq(8), --dhcp-host (from memory)',
    write: (list) =>
      list
        .map((each) => `# ${oneLine(each.tag)}\ndhcp-host=${each.mac.toLowerCase()},${each.address},${each.hostName}\n`)
        .join(''),
  },
}

const oneLine = (text: string) => text.replace(/[\r\n]+/g, ' ')

function keaSubnets(list: readonly Reservation[]) {
  const networks = [...new Map(list.map((each) => [each.network.id, each.network])).values()]
  return networks.map((network, k) => ({
    id: network.vlan ?? k + 1,
    subnet: network.cidr,
    ...(network.gateway !== null && { 'option-data': [{ name: 'routers', data: network.gateway }] }),
    reservations: list
      .filter((each) => each.network.id === network.id)
      .map((each) => ({ 'hw-address': each.mac.toLowerCase(), 'ip-address': each.address, hostname: each.hostName })),
  }))
}

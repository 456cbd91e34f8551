import {
  formatIpv4,
  formatMask,
  formatSubnet,
  octetsOf,
  parseIpv4,
  parseSubnet,
  prefixLength,
  subnetOf,
} from '../address'
import type { Device, Job } from '../job'
import type { HostAddress } from '../sequence'
import { breakerOf, groupOf } from './breaker'

/** What the job fills into the sentences of a run. A field without a value says what is missing. */
export type StepFields = Readonly<Record<string, string>>

/** The fields a run may name. */
export const fieldNames = {
  tag: 'tag of the device',
  what: 'what it is',
  place: 'where it is',
  group: 'breaker or isolation group',
  planned: 'planned address',
  present: 'present address',
  presentSubnet: 'subnet of its present address',
  factory: 'address of its kind after a reset',
  alsoOff: 'what else hangs on its breaker',
  mask: 'subnet mask',
  gateway: 'gateway',
  gatewayOrBlank: 'gateway, or nothing where none is planned',
  padded: 'planned address as a keypad shows it: 010.020.040.022',
  octet1: 'first octet of the planned address',
  octet2: 'second octet',
  octet3: 'third octet',
  lastOctet: 'last octet',
  octal: 'node or last octet in octal',
  switches: 'what its switches must show',
  unit: 'unit id',
  node: 'node on its line',
  line: 'its line or bus',
  lineSettings: 'settings of its line',
  mac: 'hardware address',
  hostName: 'host name',
  orderCode: 'order code',
  serialNumber: 'serial number',
  firmwareNeeded: 'firmware asked for',
  startUp: 'start-up time',
  upsCode: 'code of the UPS, from its label',
  way: 'the way in, leg by leg',
} as const

const missing = (name: keyof typeof fieldNames) => `(${fieldNames[name]}: not planned)`

/** Whether a text to type is one, or says what is missing. */
export const isTypeable = (text: string): boolean => !text.startsWith('(')

/** The planned address of a device's first addressed port, with its mask; `undefined` while it has none. */
export function plannedOf(job: Job, device: Device): HostAddress | undefined {
  const port = device.ports.find((each) => each.address !== null && each.networkId !== null)
  const network = job.networks.find((each) => each.id === port?.networkId)
  const address = parseIpv4(port?.address ?? '')
  const subnet = network && parseSubnet(network.cidr)
  if (!address.ok || !subnet?.ok) return undefined
  return { address: address.value, prefix: port?.prefix == null ? subnet.value.prefix : prefixLength(port.prefix) }
}

/** Fields for one device. `present` is where it answers now, as far as it is known; `factory` where its kind is after a reset. */
export function fieldsOf(
  job: Job,
  device: Device,
  present: HostAddress | undefined,
  startUpSeconds: number,
  factory: HostAddress | undefined = undefined,
): StepFields {
  const port = device.ports[0]
  const network = job.networks.find((each) => each.id === port?.networkId)
  const planned = plannedOf(job, device)
  const octets = planned ? octetsOf(planned.address).map(String) : []
  const node = device.nodes[0]?.node ?? device.unitId
  const shown = device.nodes[0]?.node ?? (octets[3] === undefined ? null : Number(octets[3]))
  const breaker = breakerOf(job, device)
  const line = job.lines.find(({ id }) => id === device.nodes[0]?.lineId)
  const others = job.devices
    .filter((each) => each.id !== device.id && breakerOf(job, each) === breaker)
    .map(({ tag }) => tag)
  const text = (name: keyof typeof fieldNames, value: string | number | null | undefined) =>
    value === null || value === undefined || value === '' ? missing(name) : String(value)
  return {
    tag: device.tag,
    what: device.what,
    place: text('place', device.place),
    // With an address of its own it is ordered by its own breaker, and that is the one its stop puts on.
    group: planned ? groupOf(device) : breakerOf(job, device),
    planned: text('planned', planned && formatIpv4(planned.address)),
    present: text('present', present && formatIpv4(present.address)),
    presentSubnet: text('presentSubnet', present && formatSubnet(subnetOf(present.address, present.prefix))),
    factory: text('factory', factory && formatIpv4(factory.address)),
    alsoOff: others.join(', ') || 'nothing else of this job',
    mask: text('mask', planned && formatMask(planned.prefix)),
    gateway: port?.gateway ?? network?.gateway ?? 'left blank',
    gatewayOrBlank: port?.gateway ?? network?.gateway ?? '',
    padded: text('padded', planned && octets.map((octet) => octet.padStart(3, '0')).join('.')),
    octet1: text('octet1', octets[0]),
    octet2: text('octet2', octets[1]),
    octet3: text('octet3', octets[2]),
    lastOctet: text('lastOctet', octets[3]),
    octal: text('octal', shown?.toString(8)),
    switches: text('switches', shown),
    unit: text('unit', device.unitId),
    node: text('node', node),
    line: text('line', line?.name),
    lineSettings: text('lineSettings', line?.settings),
    mac: text('mac', port?.mac),
    hostName: text('hostName', device.hostName),
    orderCode: text('orderCode', device.orderCode),
    serialNumber: text('serialNumber', device.serialNumber),
    firmwareNeeded: text('firmwareNeeded', device.firmwareNeeded),
    startUp: `${startUpSeconds} s`,
    // Only the label of the UPS has it.
    upsCode: missing('upsCode'),
    way: wayIn(job, device).join(' → ') || missing('way'),
  }
}

/** The legs to a device without an address of its own, nearest first: what it hangs behind, then its line and node. */
export function wayIn(job: Job, device: Device): readonly string[] {
  const legs: string[] = []
  const seen = new Set<string>()
  for (let at: Device | undefined = device; at && !seen.has(at.id);) {
    seen.add(at.id)
    const line = job.lines.find((each) => each.id === at?.nodes[0]?.lineId)
    const node = at.nodes[0]?.node
    const leg = line && node != null ? `${line.name} ${node}` : undefined
    legs.unshift(
      leg && at === device ? `${leg}: ${at.tag}` : `${at.tag}${at.ports[0]?.address ? ` ${at.ports[0].address}` : ''}`,
    )
    const behindId: string | null = at.behindId
    at = job.devices.find((each) => each.id === behindId)
  }
  return legs
}

/** Fills a sentence. Fields that are not known stay as they stand. */
export function filled(text: string, fields: StepFields): string {
  return text.replace(/\{(\w+)\}/g, (whole, name: string) => fields[name] ?? whole)
}

/** Names in braces that no job can fill in. */
export function unknownFields(text: string): readonly string[] {
  return [...text.matchAll(/\{([^}]*)\}/g)].flatMap(([, name = '']) => (name in fieldNames ? [] : [name]))
}

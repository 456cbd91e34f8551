import { parseIpv4, type Ipv4 } from '../../address'
import { schoolOf, settingOf, type Port } from '../../job'
import { outOfReach, waysOfSetting } from '../../kind'
import { aboutDevice, PLAN_ONLY, type DeviceInJob, type DeviceRule } from './subject'

/** Where the device is now, as far as that is known: as found, else the address its kind comes with. */
function presentAddress({ device, kind }: DeviceInJob): Ipv4 | undefined {
  const found = parseIpv4(device.asFound)
  if (found.ok) return found.value
  if (device.asFound !== '' || kind.defaultAddress.kind !== 'fixed') return undefined
  const factory = parseIpv4(kind.defaultAddress.address)
  return factory.ok ? factory.value : undefined
}

function whyOutOfReach(subject: DeviceInJob): string | undefined {
  const { way } = settingOf(subject.job, subject.device)
  for (const port of subject.device.ports) {
    const planned = port.address === null ? undefined : parseIpv4(port.address)
    const present = presentAddress(subject)
    if (!planned?.ok || planned.value === present) continue
    const why = outOfReach(way, present, planned.value)
    if (why !== undefined) return why
  }
  return undefined
}

export const settingOutOfReach: DeviceRule = {
  id: 'device.setting-out-of-reach',
  title: 'It cannot be set to that',
  severity: 'will-not-work',
  summary: 'The way its address is set reaches only part of an address, and the plan asks for more.',
  appliesTo: ({ device }) => device.ports.some((port) => port.address !== null),
  check: (subject) => whyOutOfReach(subject) === undefined,
  found: ({ device }) => device.ports.find((port) => port.address !== null)?.address ?? '',
  expected: () => 'an address within reach, or another way of setting',
  why: (subject) => whyOutOfReach(subject) ?? '',
  fixes: ({ device }) =>
    (['web-page', 'discovery-tool'] as const).map((way) => ({
      label: `Set it by: ${waysOfSetting[way].name.toLowerCase()}`,
      sideEffect: PLAN_ONLY,
      edits: [{ subject: aboutDevice(device), field: 'setting', value: way }],
    })),
  source: 'common practice, no source',
}

const lacking = ({ device, job }: DeviceInJob): readonly Port[] =>
  device.ports.filter(
    (port) => port.address !== null && port.mac === null && schoolOf(job, port) === 'dhcp-reservation',
  )

export const reservationWithoutMac: DeviceRule = {
  id: 'device.reservation-without-mac',
  title: 'No hardware address for the reservation',
  severity: 'will-not-work',
  summary: 'The address is to be given by hardware address, and that is not known.',
  appliesTo: ({ device }) => device.ports.length > 0,
  check: (subject) => lacking(subject).length === 0,
  found: () => 'no hardware address',
  expected: () => 'the hardware address from the label',
  why: (subject) =>
    `The server can reserve ${lacking(subject)
      .map((port) => port.address)
      .join(', ')} for ${subject.device.tag} only by its hardware address. It stands on the label.`,
  fixes: (subject) => [
    {
      label: `Plan ${subject.device.tag} as static`,
      sideEffect: 'The address is then set in the device itself.',
      edits: lacking(subject).map((port) => ({
        subject: { kind: 'port', id: port.id },
        field: 'school',
        value: 'static',
      })),
    },
  ],
  source: 'RFC 2131 4.2 (a server knows a client by its hardware address or identifier)',
}

const unitOnLine = ({ device, job }: DeviceInJob): number | undefined =>
  device.nodes.find(
    (node) => !node.isMaster && job.lines.find((line) => line.id === node.lineId)?.family === 'decimal-1-247',
  )?.node ?? undefined

export const unitDiffers: DeviceRule = {
  id: 'device.unit-differs',
  title: 'Two unit ids for one device',
  severity: 'will-not-work',
  summary: 'On a serial Modbus line the node of a device is its unit id; the plan says two different ones.',
  appliesTo: (subject) => unitOnLine(subject) !== undefined && subject.device.behindId !== null,
  check: (subject) => subject.device.unitId === unitOnLine(subject),
  found: ({ device }) => (device.unitId === null ? 'no unit id' : String(device.unitId)),
  expected: (subject) => `${unitOnLine(subject)}, its node on the line`,
  why: (subject) =>
    `${subject.device.tag} has node ${unitOnLine(subject)} on its line; a request to another unit id is never answered.`,
  fixes: (subject) => [
    {
      label: `Use unit id ${unitOnLine(subject)}`,
      sideEffect: PLAN_ONLY,
      edits: [{ subject: aboutDevice(subject.device), field: 'unitId', value: String(unitOnLine(subject)) }],
    },
  ],
  source: 'Modbus over Serial Line V1.02, 2.2 (each slave has one unique address)',
}

import {
  formatIpv4,
  ipv4FromBits,
  parseIpv4,
  parseRanges,
  parseSubnet,
  prefixLength,
  contains,
  type AddressRange,
} from '../address'
import { schoolOf, settingOf, type Device, type Job, type Port } from '../job'
import { kindFacts, outOfReach, waysOfSetting, type RestartRule } from '../kind'
import { usualSeconds, type BringUpDevice, type BringUpJob, type HostAddress, type PowerGroup } from '../sequence'
import { groupOf } from './breaker'
import { plannedOf } from './fields'
import { isLeadOut } from './lead'
import { latestFact, startUpOf, type WalkRecord } from './record'

/** The port that carries the planned address. */
export const portOf = (device: Device): Port | undefined =>
  device.ports.find((port) => port.address !== null && port.networkId !== null)

/**
 * What the order is computed from, as things stand now: devices with a planned address, where they answer at present,
 * what is entered and waits, what has power.
 *
 * @param laptop subnets the laptop is in
 */
export function bringUpJobOf(job: Job, record: WalkRecord, laptop: readonly HostAddress[]): BringUpJob {
  const { settings } = record
  const walked = job.devices.filter((device) => plannedOf(job, device) && !settings.leftOut.includes(device.id))
  const live = new Map(walked.map((device) => [groupOf(device), isGroupLive(job, record, groupOf(device))]))
  const groups = [...live].map(([id, isLive]): PowerGroup => {
    const own = settings.groups[id]
    return {
      id,
      seconds: own?.seconds ?? usualSeconds.power,
      live: isLive,
      mustStayLive: own?.mustStayLive ?? false,
      chained: own?.chained ?? false,
    }
  })
  return {
    laptop: { subnets: laptop.slice(0, settings.holds), holds: settings.holds },
    groups,
    devices: walked.map((device) => deviceOf(job, record, device, live.get(groupOf(device)) ?? false)),
    reserved: reservedOf(job, settings.leftOut),
    seconds: { laptopChange: settings.laptopChange, cableMove: settings.cableMove, leadMove: settings.leadMove },
    preference: settings.preference,
  }
}

/** Whether a group has power: what was done last counts, then what the job says, then a device found at its place. */
export function isGroupLive(job: Job, record: WalkRecord, group: string): boolean {
  const members = job.devices.filter((device) => groupOf(device) === group)
  const facts = members.flatMap((device) => latestFact(record, device.id, 'power') ?? [])
  const latest = facts.sort((a, b) => b.at - a.at)[0]
  if (latest) return latest.text === 'on'
  const said = record.settings.groups[group]?.live
  return said ?? members.some((device) => device.asFound !== '' && device.asFound === portOf(device)?.address)
}

function deviceOf(job: Job, record: WalkRecord, device: Device, live: boolean): BringUpDevice {
  const target = plannedOf(job, device) as HostAddress
  const setting = settingOf(job, device)
  const way = waysOfSetting[setting.way]
  const port = portOf(device)
  const access = port && schoolOf(job, port) === 'dhcp-reservation' ? 'lease' : way.access
  const bySwitch = setting.way === 'rotary-switch' || setting.way === 'dip-switch'
  // Switches are read when power comes: set before, the device comes up at its planned address.
  const present =
    bySwitch && !live && !outOfReach(setting.way, undefined, target.address) ? target : presentOf(job, record, device)
  const effect = effects[setting.effective]
  const pending = effect === 'power-cycle' ? pendingOf(record, device, target) : undefined
  const verified = latestFact(record, device.id, 'address', 'verified')
  const blocked = outOfReach(setting.way, present?.address, target.address) !== undefined
  return {
    id: device.id,
    name: device.tag,
    groupId: groupOf(device),
    present: present ?? null,
    target,
    access,
    effect,
    handsOnSeconds: setting.handsOnSeconds,
    startUpSeconds: startUpOf(job, record, device),
    reach: blocked && access !== 'lease' ? unreachable(present, target) : null,
    ...(pending ? { pending } : {}),
    ...(isLeadOut(record, device.id) ? { leadPulled: true } : {}),
    ...(verified?.text === formatIpv4(target.address) ? { verified: true } : {}),
  }
}

const effects: Readonly<Record<RestartRule, BringUpDevice['effect']>> = {
  'at-once': 'at-once',
  'self-restart': 'self-restart',
  'save-and-restart': 'self-restart',
  download: 'self-restart',
  'power-cycle': 'power-cycle',
}

/** A reach that leaves the planned address out. */
function unreachable(present: HostAddress | undefined, target: HostAddress): HostAddress {
  if (present && present.address !== target.address) return { address: present.address, prefix: prefixLength(32) }
  return { address: ipv4FromBits((target.address ^ 1) >>> 0), prefix: prefixLength(32) }
}

/** Where a device answers now: what came into force last, what was found, else what its kind has out of the box. */
export function presentOf(job: Job, record: WalkRecord, device: Device): HostAddress | undefined {
  const fact = latestFact(record, device.id, 'address', 'in-force') ?? latestFact(record, device.id, 'address', 'found')
  const factory = kindFacts(device.kind, job.kinds).defaultAddress
  const read = parseIpv4(fact?.text ?? device.asFound)
  const target = plannedOf(job, device)
  if (read.ok) {
    const network = job.networks
      .map((each) => parseSubnet(each.cidr))
      .find((each) => each.ok && contains(each.value, read.value))
    const own = target?.address === read.value ? target.prefix : undefined
    const usual = factory.kind === 'fixed' && factory.address === formatIpv4(read.value) ? factory.prefix : 24
    return { address: read.value, prefix: own ?? (network?.ok ? network.value.prefix : prefixLength(usual)) }
  }
  if (factory.kind !== 'fixed') return undefined
  const address = parseIpv4(factory.address)
  return address.ok ? { address: address.value, prefix: prefixLength(factory.prefix) } : undefined
}

/** What is entered and waits for power: entered later than anything that came into force. */
function pendingOf(record: WalkRecord, device: Device, target: HostAddress): HostAddress | undefined {
  const entered = latestFact(record, device.id, 'address', 'entered')
  const inForce = latestFact(record, device.id, 'address', 'in-force')
  if (!entered || (inForce && inForce.at >= entered.at)) return undefined
  const read = parseIpv4(entered.text)
  return read.ok ? { address: read.value, prefix: target.prefix } : undefined
}

/** Ranges, gateways and addresses that are not free: also those of devices that are not walked now. */
function reservedOf(job: Job, leftOut: readonly string[]): readonly AddressRange[] {
  const ranges = job.networks.flatMap((network) => {
    const kept = [network.dhcp, network.reserved].flatMap((text) => {
      const read = parseRanges(text)
      return read.ok ? read.value : []
    })
    const gateway = parseIpv4(network.gateway ?? '')
    return gateway.ok ? [...kept, { first: gateway.value, last: gateway.value }] : kept
  })
  const others = job.devices.flatMap((device) =>
    device.ports
      .filter((port) => leftOut.includes(device.id) || port !== portOf(device))
      .flatMap((port) => {
        const read = parseIpv4(port.address ?? '')
        return read.ok ? [{ first: read.value, last: read.value }] : []
      }),
  )
  return [...ranges, ...others]
}

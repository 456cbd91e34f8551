import { formatIpv4, ipv4FromBits, parseIpv4, parseRanges, prefixLength, type AddressRange } from '../address'
import { schoolOf, settingOf, type Device, type Job } from '../job'
import { outOfReach, waysOfSetting, type RestartRule } from '../kind'
import { usualSeconds, type BringUpDevice, type BringUpJob, type HostAddress, type PowerGroup } from '../sequence'
import { groupOf } from './breaker'
import { plannedOf } from './fields'
import { isLeadOut } from './lead'
import { inOtherHands } from './onDemand'
import { isGroupLive, portOf, presentOf } from './present'
import { latestFact, startUpOf, type WalkRecord } from './record'

/**
 * What the order is computed from, as things stand now: devices with a planned address, where they answer at present,
 * what is entered and waits, what has power. What a person left out, what a run in hand moves, and what has an address
 * but no plan, is in it as well, frozen: it stands in the plant and holds its address.
 *
 * @param laptop subnets the laptop is in
 */
export function bringUpJobOf(job: Job, record: WalkRecord, laptop: readonly HostAddress[]): BringUpJob {
  const { settings } = record
  const away = [...settings.leftOut, ...inOtherHands(job, record)]
  const standing = job.devices.flatMap((device): readonly Standing[] => {
    const planned = plannedOf(job, device)
    if (planned) return [{ device, target: planned, frozen: away.includes(device.id) }]
    const present = device.ports.length > 0 ? presentOf(job, record, device) : undefined
    return present ? [{ device, target: present, frozen: true }] : []
  })
  const live = new Map(standing.map(({ device }) => [groupOf(device), isGroupLive(job, record, groupOf(device))]))
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
    devices: standing.map((each) => deviceOf(job, record, each, live.get(groupOf(each.device)) ?? false)),
    reserved: reservedOf(job, away),
    seconds: { laptopChange: settings.laptopChange, cableMove: settings.cableMove, leadMove: settings.leadMove },
    preference: settings.preference,
  }
}

/** A device with an address, where it is to be, and whether the order leaves it alone. */
interface Standing {
  readonly device: Device
  readonly target: HostAddress
  readonly frozen: boolean
}

function deviceOf(job: Job, record: WalkRecord, { device, target, frozen }: Standing, live: boolean): BringUpDevice {
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
    ...(frozen ? { frozen } : {}),
    ...(pending ? { pending } : {}),
    ...(isLeadOut(record, device.id) ? { leadPulled: true } : {}),
    // Verified once, and somewhere else since: it was reset.
    ...(verified?.text === formatIpv4(target.address) && present?.address === target.address ? { verified: true } : {}),
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

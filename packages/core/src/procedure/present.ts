import { contains, parseIpv4, parseSubnet, prefixLength } from '../address'
import type { Device, Job, Port } from '../job'
import { kindFacts } from '../kind'
import type { HostAddress } from '../sequence'
import { groupOf } from './breaker'
import { plannedOf } from './fields'
import { latestFact, type WalkRecord } from './record'

/** The port that carries the planned address. */
export const portOf = (device: Device): Port | undefined =>
  device.ports.find((port) => port.address !== null && port.networkId !== null)

/** The address that a device of this kind has out of the box and after a reset; `undefined` where it has none of its own. */
export function factoryOf(job: Job, device: Device): HostAddress | undefined {
  const factory = kindFacts(device.kind, job.kinds).defaultAddress
  if (factory.kind !== 'fixed') return undefined
  const address = parseIpv4(factory.address)
  return address.ok ? { address: address.value, prefix: prefixLength(factory.prefix) } : undefined
}

/** Where a device answers now: what came into force last, what was found, else what its kind has out of the box. */
export function presentOf(job: Job, record: WalkRecord, device: Device): HostAddress | undefined {
  const fact = latestFact(record, device.id, 'address', 'in-force') ?? latestFact(record, device.id, 'address', 'found')
  const factory = factoryOf(job, device)
  const read = parseIpv4(fact?.text ?? device.asFound)
  const target = plannedOf(job, device)
  if (read.ok) {
    const network = job.networks
      .map((each) => parseSubnet(each.cidr))
      .find((each) => each.ok && contains(each.value, read.value))
    const own = target?.address === read.value ? target.prefix : undefined
    const usual = factory?.address === read.value ? factory.prefix : prefixLength(24)
    return { address: read.value, prefix: own ?? (network?.ok ? network.value.prefix : usual) }
  }
  return factory
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

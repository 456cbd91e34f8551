import { contains, formatIpv4, formatSubnet, parseIpv4, parseSubnet, prefixLength, subnetOf } from '../address'
import type { Device, Job } from '../job'
import { factoryOf, laptopSees, latestFact, portOf, presentOf, type LaptopState, type WalkRecord } from '../procedure'

/** By what somebody was heard. */
export type HeardBy = 'identity' | 'name' | 'lease' | 'neighbour'

export const heardBy: Readonly<Record<HeardBy, { readonly name: string; readonly reach: Reach }>> = {
  identity: { name: 'says who it is', reach: 'unknown' },
  name: { name: 'says its name', reach: 'any-subnet' },
  lease: { name: 'asks for an address', reach: 'any-subnet' },
  neighbour: { name: 'stands in the neighbour table', reach: 'same-subnet' },
}

/** How far a way of listening reaches: what is not heard may be there all the same. */
export type Reach = 'any-subnet' | 'same-subnet' | 'unknown'

export const reaches: Readonly<Record<Reach, string>> = {
  'any-subnet': 'any subnet on this wire',
  'same-subnet': 'the laptop’s own subnets only',
  unknown: 'the laptop’s own subnets; another only where the device answers to everybody',
}

/** Somebody who was heard once. What was not said is blank. */
export interface Sighting {
  readonly by: HeardBy
  readonly address: string
  readonly hardwareAddress: string
  readonly says: string
  readonly serialNumber: string
  readonly orderCode: string
  readonly firmware: string
  /** Milliseconds since 1970. */
  readonly at: number
}

/** Somebody on the wire, by everything that was heard of it. */
export interface Hit extends Omit<Sighting, 'by'> {
  readonly id: string
  readonly by: readonly HeardBy[]
  /** By what its serial number was heard; blank where none was. */
  readonly serialBy: HeardBy | ''
  readonly lastAt: number
}

/**
 * Brings sightings together: the same hardware address, or the same address with nothing that tells two apart. Two
 * serial numbers or two hardware addresses at one address are two.
 */
export function hitsOf(sightings: readonly Sighting[]): readonly Hit[] {
  const hits: Hit[] = []
  // Only who has the same hardware address or the same address may be the same: looked up, not gone through.
  const places = new Map<string, number[]>()
  const at = (key: string) => (key === '' ? [] : (places.get(key) ?? []))
  const remember = (key: string, place: number) => {
    const known = at(key)
    if (key !== '' && !known.includes(place)) places.set(key, [...known, place])
  }
  for (const each of sightings) {
    const near = [...at(each.hardwareAddress), ...at(each.address)].sort((a, b) => a - b)
    const found = near.find((place) => {
      const hit = hits[place]
      return hit !== undefined && isSame(hit, each)
    })
    const hit = found === undefined ? undefined : hits[found]
    const place = found ?? hits.length
    hits[place] = hit
      ? joined(hit, each)
      : { ...each, by: [each.by], serialBy: each.serialNumber === '' ? '' : each.by, id: idOf(each), lastAt: each.at }
    remember(each.hardwareAddress, place)
    remember(each.address, place)
  }
  return hits
}

const idOf = ({ hardwareAddress, address, serialNumber }: Sighting) =>
  hardwareAddress || [address, serialNumber].filter((part) => part !== '').join(' ')

const differ = (a: string, b: string) => a !== '' && b !== '' && a !== b

function isSame(hit: Hit, each: Sighting): boolean {
  // A number in one way of saying it is not the text in another.
  if (hit.serialBy === each.by && differ(hit.serialNumber, each.serialNumber)) return false
  if (differ(hit.hardwareAddress, each.hardwareAddress)) return false
  if (hit.hardwareAddress !== '' && hit.hardwareAddress === each.hardwareAddress) return true
  return hit.address !== '' && hit.address === each.address
}

function joined(hit: Hit, each: Sighting): Hit {
  const known = (key: 'hardwareAddress' | 'serialNumber' | 'orderCode' | 'firmware') => hit[key] || each[key]
  return {
    ...hit,
    // Who asks for a lease and then has an address: the latest counts.
    address: each.address || hit.address,
    hardwareAddress: known('hardwareAddress'),
    serialNumber: known('serialNumber'),
    serialBy: hit.serialBy || (each.serialNumber === '' ? '' : each.by),
    orderCode: known('orderCode'),
    firmware: known('firmware'),
    says: hit.says.includes(each.says)
      ? hit.says
      : each.says.includes(hit.says)
        ? each.says
        : `${hit.says}; ${each.says}`,
    by: hit.by.includes(each.by) ? hit.by : [...hit.by, each.by],
    lastAt: each.at,
  }
}

/** A device of the job that somebody heard may be. */
export interface Candidate {
  readonly deviceId: string
  readonly tag: string
  /** Certain only by what identifies a box: its hardware address or its serial number. */
  readonly sure: boolean
  readonly why: string
}

export interface JudgedHit {
  readonly hit: Hit
  readonly candidates: readonly Candidate[]
  /** What speaks against the plan: another box at a planned address. */
  readonly odds: string
  /** The subnet it is in, as far as it is known or usual: /24. */
  readonly subnet: string
  /** Whether the laptop is in a subnet of it. */
  readonly laptopThere: boolean
}

/** Sets somebody who was heard against the plan: who it may be, what speaks against it, and whether it can be reached. */
export function judgeHit(job: Job, record: WalkRecord, laptop: LaptopState | undefined, hit: Hit): JudgedHit {
  const candidates = job.devices
    .flatMap((device) => candidateOf(job, record, device, hit) ?? [])
    .sort((a, b) => Number(b.sure) - Number(a.sure))
  const sure = candidates.filter((each) => each.sure)
  const planned = job.devices.find((device) => hit.address !== '' && portOf(device)?.address === hit.address)
  const label = planned && labelOf(record, planned)
  const other = sure.find((each) => planned && each.deviceId !== planned.id)
  const odds = other
    ? `${hit.address} is planned for ${planned?.tag}; this box is ${other.tag}.`
    : planned && label && hit.hardwareAddress && label !== hit.hardwareAddress
      ? `${hit.address} is planned for ${planned.tag}, whose label says ${label}; ${hit.hardwareAddress} has it.`
      : ''
  const read = parseIpv4(hit.address)
  const network = read.ok
    ? job.networks.map(({ cidr }) => parseSubnet(cidr)).find((each) => each.ok && contains(each.value, read.value))
    : undefined
  const subnet = network?.ok ? network.value : read.ok ? subnetOf(read.value, prefixLength(24)) : undefined
  const laptopThere = read.ok && laptop !== undefined && laptopSees(laptop, hit.address)
  return {
    hit,
    candidates: sure.length > 0 ? sure : candidates,
    odds,
    subnet: subnet ? formatSubnet(subnet) : '',
    laptopThere,
  }
}

/** The hardware address on the label, else the planned one; blank where nobody knows it. */
const labelOf = (record: WalkRecord, device: Device): string =>
  latestFact(record, device.id, 'mac')?.text ?? portOf(device)?.mac ?? ''

function candidateOf(job: Job, record: WalkRecord, device: Device, hit: Hit): Candidate | undefined {
  const is = (sure: boolean, why: string): Candidate => ({ deviceId: device.id, tag: device.tag, sure, why })
  const mac = labelOf(record, device)
  if (mac !== '' && hit.hardwareAddress === mac) return is(true, `its hardware address, ${mac}`)
  // Another box, whatever address it has.
  if (differ(mac, hit.hardwareAddress)) return undefined
  const serial = device.serialNumber.replace(/\s/g, '').toUpperCase()
  const heard = hit.serialNumber.replace(/\s/g, '').toUpperCase()
  if (serial !== '' && serial === heard) return is(true, `its serial number, ${device.serialNumber}`)
  if (hit.address === '') return undefined
  if (portOf(device)?.address === hit.address) return is(false, 'its planned address')
  const present = presentOf(job, record, device)
  if (present && formatIpv4(present.address) === hit.address && portOf(device))
    return is(false, 'the address it is known at')
  const factory = factoryOf(job, device)
  if (factory && portOf(device) && formatIpv4(factory.address) === hit.address)
    return is(false, 'the factory address of its kind')
  const code = device.orderCodeFound || device.orderCode
  if (code !== '' && hit.orderCode !== '' && code === hit.orderCode) return is(false, `its order code, ${code}`)
  return undefined
}

/** How long is listened: a device shows itself about 80 s after it got power. @source common practice, no source */
export const LISTEN_SECONDS = 100
/** Every so many seconds everybody is asked anew. */
export const ASK_EVERY_SECONDS = 3

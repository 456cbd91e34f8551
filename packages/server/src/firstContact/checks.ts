import { formatIpv4, formatSubnet, subnetOf } from '@calm/core/address'
import { differences, versionFits } from '@calm/core/identity'
import type { Device, Job } from '@calm/core/job'
import {
  laptopIsIn,
  latestFact,
  portOf,
  presentOf,
  type CheckId,
  type LaptopState,
  type Stop,
  type WalkRecord,
} from '@calm/core/procedure'
import { Socket } from 'node:net'
import { targetOf, type LiveContext } from '../live'
import { laptopState } from '../laptop'
import { probe, unitAt } from './probe'

/** What a check came to. `how` says whether it was seen live. */
export interface CheckResult {
  readonly ok: boolean
  readonly say: string
  readonly how: 'read-live' | 'computed'
}

export interface CheckPlace {
  readonly context: LiveContext
  readonly job: Job
  readonly record: WalkRecord
  readonly stop: Stop
  readonly device: Device | undefined
  /** How many pictures of what runs are kept, and the latest difference. */
  readonly pictures: () => Promise<{ readonly before: boolean; readonly lost: readonly string[] | undefined }>
}

const computed = (ok: boolean, say: string): CheckResult => ({ ok, say, how: 'computed' })
const live = (ok: boolean, say: string): CheckResult => ({ ok, say, how: 'read-live' })

/** Ports that a device is looked at by: its own, Modbus, its page. */
export const portsOf = (device: Device | undefined): readonly number[] => [
  ...new Set([...(device ? [portOf(device)?.tcpPort ?? 502] : []), 502, 80, 443]),
]

/** Makes a check now. */
export async function makeCheck(place: CheckPlace, check: CheckId): Promise<CheckResult> {
  const { job, record, device } = place
  switch (check) {
    case 'laptop-in-subnet':
      return laptopCheck(place, await laptopState(job.mode, place.context.bench))
    case 'before-picture': {
      const { before } = await place.pictures()
      return computed(before, before ? 'The before-picture is kept.' : 'No before-picture is kept yet.')
    }
    case 'returned': {
      const { lost } = await place.pictures()
      if (!lost) return computed(false, 'A before-picture and one afterwards are needed.')
      return computed(lost.length === 0, lost.length === 0 ? 'Everything is back.' : `Not back: ${lost.join(', ')}.`)
    }
  }
  if (!device) return computed(false, 'This step names no device.')
  switch (check) {
    case 'reached-planned':
      return reached(place, device, portOf(device)?.address ?? '')
    case 'reached-present': {
      const present = portOf(device) && presentOf(job, record, device)
      const relay = job.devices.find((each) => each.id === device.behindId)
      if (present || !relay) return reached(place, device, present ? formatIpv4(present.address) : '')
      return reachedThrough(place, relay, device)
    }
    case 'gone-from-present': {
      const present = presentOf(job, record, device)
      const seen = present && (await probe(place.context, job.mode, formatIpv4(present.address), portsOf(device)))
      return live(
        !seen?.answers,
        seen?.answers ? `It still answers at ${seen.address}.` : 'Nobody answers there any more.',
      )
    }
    case 'order-code':
      if (device.orderCodeFound === '') return computed(false, 'The order code on its label is not written down yet.')
      return equalTexts(device.orderCode, device.orderCodeFound, 'The parts list', 'the label')
    case 'firmware':
      return firmware(job, device)
    case 'names-equal': {
      const other = device.namePlaces.find((name) => name.text !== device.hostName)
      if (device.namePlaces.length === 0) return computed(device.hostName !== '', 'Its name stands in one place only.')
      return other
        ? equalTexts(device.hostName, other.text, 'In the device', other.where.toLowerCase())
        : computed(true, `"${device.hostName}" everywhere.`)
    }
    case 'mac-known': {
      const mac = portOf(device)?.mac
      return computed(Boolean(mac), mac ? `Hardware address ${mac}.` : 'Its hardware address is not written down yet.')
    }
    case 'identified':
      return identified(job, record, device)
    case 'backups': {
      const count = record.facts.filter((fact) => fact.deviceId === device.id && fact.setting === 'backup').length
      return computed(count >= 2, `${count} of 2 backups written down.`)
    }
    case 'units-behind':
      return unitsBehind(place, device)
    case 'text-arrives':
      return textArrives(place, device)
  }
}

function laptopCheck({ job, record, stop, device }: CheckPlace, laptop: LaptopState): CheckResult {
  const where = stop.laptop ?? (device && presentOf(job, record, device))
  if (!where) return computed(false, 'The subnet is not known.')
  const cidr = formatSubnet(subnetOf(where.address, where.prefix))
  const now = laptop.interfaces
    .filter((adapter) => !adapter.loopback)
    .map(({ name, address, prefix }) => `${name} ${address}/${prefix}`)
  const is = now.length > 0 ? now.join(', ') : 'no adapter with an address'
  return live(laptopIsIn(laptop, cidr), laptopIsIn(laptop, cidr) ? `In ${cidr}: ${is}.` : `Not in ${cidr}: ${is}.`)
}

async function reached({ context, job }: CheckPlace, device: Device, address: string): Promise<CheckResult> {
  if (address === '') return live(false, 'No address is known for it.')
  const seen = await probe(context, job.mode, address, portsOf(device))
  if (!seen.answers) return live(false, `Nothing answers at ${address}.`)
  if (seen.identities.length > 1) return live(false, `Two answer at ${address}: ${seen.identities.join(' and ')}.`)
  const [identity] = seen.identities
  // Many devices say what they are, few what they are called: only another tag of this job is against it.
  const foreign =
    identity && job.devices.find((each) => each.id !== device.id && identity.split(', ').includes(each.tag))
  if (foreign) return live(false, `${foreign.tag} answers at ${address}, not ${device.tag}.`)
  const open = seen.ports.filter((port) => port.connection === 'open').map(({ port }) => port)
  return live(
    open.length > 0,
    `${address} answers${open.length > 0 ? ` at port ${open.join(', ')}` : ', every port closed'}${identity ? `: ${identity}` : ''}.`,
  )
}

/** The way in leg by leg, nearest first: the relay at its address, then the unit behind it. */
async function reachedThrough(place: CheckPlace, relay: Device, device: Device): Promise<CheckResult> {
  const { context, job } = place
  const address = portOf(relay)?.address ?? ''
  const first = await reached(place, relay, address)
  if (!first.ok || device.unitId === null) return { ...first, say: `First leg, ${relay.tag}: ${first.say}` }
  const target = targetOf(context.bench, job.mode, address, portOf(relay)?.tcpPort ?? 502)
  const unit = target && (await unitAt(context, target, device.unitId))
  const legs = `First leg, ${relay.tag}: it answers. Second leg, unit ${device.unitId}`
  if (unit === undefined) return live(false, `${legs}: silent.`)
  return live(true, `${legs}: it answers${unit === '' ? '' : `, ${unit}`}.`)
}

function equalTexts(planned: string, found: string, plannedWhere: string, foundWhere: string): CheckResult {
  if (planned === found) return computed(true, `"${planned}" in both.`)
  const [first] = differences(planned, found)
  const at = first ? ` They differ at character ${first.at + 1}.` : ''
  return computed(false, `${plannedWhere}: "${planned}"; ${foundWhere}: "${found}".${at}`)
}

function firmware(job: Job, device: Device): CheckResult {
  const measure = job.devices.find((each) => each.id === device.firmwareOfId)
  const asked = measure ? measure.firmwareFound : device.firmwareNeeded
  if (device.firmwareRelation === 'any' || asked === '') return computed(true, 'No firmware is asked for.')
  if (device.firmwareFound === '') return computed(false, `Its firmware is not written down yet; asked for: ${asked}.`)
  const fits = versionFits(device.firmwareFound, device.firmwareRelation, asked)
  return computed(fits, `Found ${device.firmwareFound}, ${device.firmwareRelation.replace('-', ' ')} ${asked}.`)
}

function identified(job: Job, record: WalkRecord, device: Device): CheckResult {
  const own = presentOf(job, record, device)
  const twins = job.devices.filter((other) => {
    const present = presentOf(job, record, other)
    return (
      other.id !== device.id &&
      own &&
      present?.address === own.address &&
      latestFact(record, other.id, 'power')?.text === 'on'
    )
  })
  if (twins.length === 0) return computed(true, 'Nobody else with power has its address.')
  const fact = latestFact(record, device.id, 'identity')
  const names = twins.map((twin) => twin.tag).join(', ')
  return computed(
    fact !== undefined,
    fact ? `Identified: ${fact.text}.` : `${names} has the same address: find out which box is which first.`,
  )
}

async function unitsBehind({ context, job }: CheckPlace, device: Device): Promise<CheckResult> {
  const behind = job.devices.filter((each) => each.behindId === device.id && each.unitId !== null)
  const target = targetOf(context.bench, job.mode, portOf(device)?.address ?? '', portOf(device)?.tcpPort ?? 502)
  if (!target || behind.length === 0) return live(behind.length === 0, 'No unit is planned behind it.')
  const silent: string[] = []
  for (const each of behind)
    if ((await unitAt(context, target, each.unitId ?? 1)) === undefined) silent.push(`${each.tag} (${each.unitId})`)
  return live(
    silent.length === 0,
    silent.length === 0 ? `${behind.length} units answer.` : `Silent: ${silent.join(', ')}.`,
  )
}

const TEXT_WAIT_MS = 8_000
const TEXT_PORT = 4001

function textArrives({ context, job }: CheckPlace, device: Device): Promise<CheckResult> {
  const relay = job.devices.find((each) => each.id === device.behindId)
  const target = relay && targetOf(context.bench, job.mode, portOf(relay)?.address ?? '', TEXT_PORT)
  if (!target) return Promise.resolve(live(false, 'It hangs behind nothing that has an address.'))
  return new Promise((done) => {
    const socket = new Socket()
    const end = (result: CheckResult) => {
      clearTimeout(timer)
      socket.destroy()
      done(result)
    }
    const timer = setTimeout(() => end(live(false, `No text within ${TEXT_WAIT_MS / 1000} s.`)), TEXT_WAIT_MS)
    socket.once('error', () => end(live(false, `${relay?.tag ?? ''} does not take a connection at port ${TEXT_PORT}.`)))
    socket.once('data', (bytes) => end(live(true, `"${bytes.toString('latin1').trim().slice(0, 60)}" arrived.`)))
    socket.connect(target.port, target.host)
  })
}

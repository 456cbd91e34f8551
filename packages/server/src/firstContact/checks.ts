import { formatIpv4, parseIpv4 } from '@calm/core/address'
import {
  backups,
  firmware,
  identified,
  controllerSees,
  judgeAnswers,
  judgeBefore,
  judgeGone,
  judgeLegs,
  judgeLaptop,
  judgeReached,
  judgeReturned,
  judgeText,
  judgeRow,
  judgeUnits,
  macKnown,
  namesEqual,
  nodesListed,
  relayFirmware,
  servedVerified,
  orderCode,
  rackCodes,
  showsPlanned,
  type CheckResult,
  type SeenAt,
  type Written,
} from '@calm/core/checks'
import type { Device, Job } from '@calm/core/job'
import { limits } from '@calm/core/modbus'
import type { HostAddress } from '@calm/core/sequence'
import {
  laptopHasLinkTo,
  laptopSees,
  latestFact,
  nearestWithAddress,
  isSettled,
  portOf,
  presentOf,
  type CheckId,
  type LaptopState,
  type Picture,
  type Stop,
  TEXT_ON_TAG,
  type WalkRecord,
} from '@calm/core/procedure'
import { Socket } from 'node:net'
import { targetOf, type LiveContext } from '../live'
import { laptopState } from '../laptop'
import { probe, unitAt } from './probe'

export interface CheckPlace {
  readonly context: LiveContext
  readonly job: Job
  readonly record: WalkRecord
  readonly stop: Stop
  readonly device: Device | undefined
  /** Where the laptop is to be for this step. */
  readonly laptop?: HostAddress | undefined
  /** ms since 1970. */
  readonly now: number
  /** The latest pictures of what runs that are kept. */
  readonly pictures: () => Promise<{ readonly before: Picture | undefined; readonly after: Picture | undefined }>
}

/** What a check came to, with what the device said by itself where it was asked. */
export interface CheckMade {
  readonly result: CheckResult
  readonly seen?: SeenAt
}

/** Ports that a device is looked at by: its own, Modbus, its page. */
export const portsOf = (device: Device | undefined): readonly number[] => [
  ...new Set([...(device ? [portOf(device)?.tcpPort ?? 502] : []), 502, 80, 443]),
]

const noDevice: CheckResult = {
  verdict: 'not-conclusive',
  say: 'This step names no device.',
  compared: 0,
  of: 0,
  how: 'computed',
}

/** How each check is made: what is looked at here, what it means in core. */
const makers: Readonly<Record<CheckId, (place: CheckPlace) => Promise<CheckMade>>> = {
  'laptop-in-subnet': async ({ job, record, stop, device, laptop, context }) => ({
    result: judgeLaptop(
      await laptopState(job.mode, context.bench),
      laptop ?? stop.laptop ?? (device && presentOf(job, record, device)),
    ),
  }),
  'before-picture': async ({ job, stop, now, pictures }) => ({
    result: judgeBefore(
      (await pictures()).before,
      job.devices.filter(portOf).map(({ tag }) => tag),
      { now, changedAt: changedIn(stop)?.first },
    ),
  }),
  returned: async ({ job, device, stop, pictures }) => {
    const { before, after } = await pictures()
    const behind = job.devices.filter((each) => device && each.behindId === device.id).map(({ tag }) => tag)
    return { result: judgeReturned(before, after, behind, changedIn(stop)) }
  },
  'reached-planned': aboutDevice(async (place, device) => {
    const seen = await lookAt(place, device, portOf(device)?.address ?? '')
    return { result: judgeReached({ ...place, device }, seen), ...(seen && { seen }) }
  }),
  'reached-present': aboutDevice(async (place, device) => {
    const { job, record } = place
    const present = portOf(device) && presentOf(job, record, device)
    const relay = job.devices.find((each) => each.id === device.behindId)
    if (!present && relay) return { result: await reachedThrough(place, relay, device) }
    const address = present ? formatIpv4(present.address) : ''
    const seen = await lookAt(place, device, address)
    const planned = portOf(device)?.address ?? ''
    const isSilent = seen?.ports.every(({ connection }) => connection === 'silent') ?? false
    const there = isSilent && planned !== address ? await lookAt(place, device, planned) : undefined
    return { result: judgeAnswers(seen, there), ...(seen && { seen }) }
  }),
  'gone-from-present': aboutDevice(async (place, device) => {
    const present = presentOf(place.job, place.record, device)
    return { result: judgeGone(await lookAt(place, device, present ? formatIpv4(present.address) : '')) }
  }),
  'order-code': written(orderCode),
  'rack-codes': written(rackCodes),
  firmware: written(firmware),
  'names-equal': written(namesEqual),
  'mac-known': written(macKnown),
  identified: written(identified),
  backups: written(backups),
  'units-behind': aboutDevice(async (place, device) => ({ result: await unitsBehind(place, device) })),
  'row-answers': async (place) => ({ result: await rowAnswers(place) }),
  'shows-planned': written(showsPlanned),
  'relay-firmware': written(relayFirmware),
  'served-verified': written(servedVerified),
  'controller-sees': aboutDevice(({ job, record, stop }, device) => {
    // A list from before the download shows what was there before it.
    const writes = stop.steps.filter(({ step }) => step.acts?.includes('writes'))
    return Promise.resolve({ result: controllerSees({ job, record, device }, allDoneAt(writes)) })
  }),
  'nodes-listed': ({ job, record, stop }) => {
    const searches = stop.steps.filter(({ step }) => step.kind === 'do')
    return Promise.resolve({ result: nodesListed({ job, record }, rowOf(job, stop), allDoneAt(searches)) })
  },
  'relay-answers': async (place) => {
    const [first] = rowOf(place.job, place.stop)
    const behind = place.job.devices.find(({ id }) => id === first?.behindId)
    const relay = nearestWithAddress(place.job, behind)
    return { result: judgeAnswers(relay && (await lookAt(place, relay, portOf(relay)?.address ?? ''))) }
  },
  'text-arrives': aboutDevice(async (place, device) => ({ result: await textArrives(place, device) })),
}

/** Makes a check now. */
export const makeCheck = (place: CheckPlace, check: CheckId): Promise<CheckMade> => makers[check](place)

function aboutDevice(make: (place: CheckPlace, device: Device) => Promise<CheckMade>) {
  return (place: CheckPlace) => (place.device ? make(place, place.device) : Promise.resolve({ result: noDevice }))
}

/** Checks of what is written down: nobody is asked. */
function written(judge: (about: Written) => CheckResult) {
  return aboutDevice(({ job, record }, device) => Promise.resolve({ result: judge({ job, record, device }) }))
}

async function lookAt({ context, job }: CheckPlace, device: Device, address: string): Promise<SeenAt | undefined> {
  if (!parseIpv4(address).ok) return undefined
  const laptop: LaptopState = await laptopState(job.mode, context.bench)
  const seen = await probe(context, job.mode, address, portsOf(device))
  const neighbour = laptop.neighbours?.find((each) => each.address === address)
  return {
    address,
    ports: seen.ports,
    identities: seen.said,
    hardwareAddress: neighbour?.hardwareAddress ?? null,
    canSee: laptopSees(laptop, address),
    hasLink: laptopHasLinkTo(laptop, address),
  }
}

/** The way in leg by leg, nearest first: the relay at its address, then what is behind it. */
async function reachedThrough(place: CheckPlace, relay: Device, device: Device): Promise<CheckResult> {
  const { context, job } = place
  const port = portOf(relay)
  const address = port?.address ?? ''
  const first = judgeAnswers(await lookAt(place, relay, address))
  const legs = { tag: device.tag, relay: relay.tag, first }
  if (first.verdict !== 'passed') return judgeLegs({ ...legs, second: undefined })
  if (device.textPort !== null) {
    const { ports } = await probe(context, job.mode, address, [device.textPort])
    return judgeLegs({
      ...legs,
      second: { kind: 'text-port', port: device.textPort, connection: ports[0]?.connection },
    })
  }
  if (device.unitId === null) return judgeLegs({ ...legs, second: { kind: 'not-planned' } })
  const target = targetOf(context.bench, job.mode, address, port?.tcpPort ?? 502)
  const identity = target && (await unitAt(context, target, device.unitId))
  return judgeLegs({ ...legs, second: { kind: 'unit', unit: device.unitId, identity } })
}

async function unitsBehind({ context, job }: CheckPlace, device: Device): Promise<CheckResult> {
  // One without a number of its own, and no other way in, is behind it too.
  const behind = job.devices.filter(
    (each) =>
      each.behindId === device.id &&
      (each.unitId !== null || (!portOf(each) && each.textPort === null && each.nodes.length === 0)),
  )
  const target = targetOf(context.bench, job.mode, portOf(device)?.address ?? '', portOf(device)?.tcpPort ?? 502)
  if (!target) return judgeUnits([])
  const units = []
  for (const { tag, unitId } of behind)
    units.push({ tag, unit: unitId, identity: unitId === null ? undefined : await unitAt(context, target, unitId) })
  return judgeUnits(units)
}

/** When the last of these steps was settled, ms since 1970, 0 where there is none; `undefined` while one is open. */
const allDoneAt = (steps: Stop['steps']): number | undefined =>
  steps.every(isSettled) ? Math.max(0, ...steps.map(({ record }) => record?.at ?? 0)) : undefined

/** When the first and the last thing of a stop was changed that is in the plant; `undefined` while nothing was. */
function changedIn(stop: Stop): { readonly first: number; readonly last: number } | undefined {
  const times = stop.steps.flatMap(({ step, record }) => (step.acts && record?.state === 'done' ? [record.at] : []))
  return times.length === 0 ? undefined : { first: Math.min(...times), last: Math.max(...times) }
}

/** Devices of a stop, in its order. */
const rowOf = (job: Job, stop: Stop): readonly Device[] =>
  stop.deviceIds.flatMap((id) => job.devices.find((device) => device.id === id) ?? [])

/** The units of a row, one after the other, and the number after the last of them. */
async function rowAnswers({ context, job, stop }: CheckPlace): Promise<CheckResult> {
  const row = rowOf(job, stop)
  const relay = job.devices.find((each) => each.id === row[0]?.behindId)
  const target = targetOf(
    context.bench,
    job.mode,
    (relay && portOf(relay)?.address) ?? '',
    (relay && portOf(relay)?.tcpPort) ?? 502,
  )
  if (!target) return judgeRow({ units: [], next: undefined })
  const units = []
  for (const { tag, unitId: unit, orderCode, orderCodeFound } of row)
    units.push({
      tag,
      unit,
      identity: unit === null ? undefined : await unitAt(context, target, unit),
      orderCode: orderCodeFound || orderCode,
    })
  const last = Math.max(...row.map(({ unitId }) => unitId ?? 0))
  const isPlanned = job.devices.some((each) => each.behindId === relay?.id && each.unitId === last + 1)
  if (last < 1 || last >= limits.lastSerialUnit || isPlanned) return judgeRow({ units, next: undefined })
  const answers = (await unitAt(context, target, last + 1)) !== undefined
  return judgeRow({ units, next: { unit: last + 1, answers } })
}

const TEXT_WAIT_MS = 8_000

function textArrives({ context, job, record }: CheckPlace, device: Device): Promise<CheckResult> {
  const relay = job.devices.find((each) => each.id === device.behindId)
  const port = device.textPort
  const expected = latestFact(record, device.id, TEXT_ON_TAG)?.text ?? ''
  const target = relay && port !== null && targetOf(context.bench, job.mode, portOf(relay)?.address ?? '', port)
  if (!relay || !target) return Promise.resolve(judgeText({ relay: relay?.tag, port, came: undefined, expected }))
  return new Promise((done) => {
    const socket = new Socket()
    const end = (came: string | null | undefined) => {
      clearTimeout(timer)
      socket.destroy()
      done(judgeText({ relay: relay.tag, port, came, expected }))
    }
    const timer = setTimeout(() => end(null), TEXT_WAIT_MS)
    socket.once('error', () => end(undefined))
    socket.once('data', (bytes) => end(bytes.toString('latin1').slice(0, 60)))
    socket.connect(target.port, target.host)
  })
}

import { settingOf, type Device, type Job } from '../../job'
import { kindFacts } from '../../kind'
import { breakerOf, groupOf } from '../breaker'
import { isGroupLive } from '../present'
import { phases, type Phase, type RunFacts } from '../run'
import { stopOf, type Making } from './making'
import { runOfDevice, type Stop } from './model'
import { powerStopBeside } from './powerStop'
import { saidOnce } from './saidOnce'
import { withoutAddress } from './withoutAddress'
import { filledStep } from './steps'

/**
 * Stops of devices without an address of their own, by the device with one that they are reached through. A row of
 * equal ones that is done in one go is one stop.
 *
 * @param breakers that are put on in this order: what comes before and with power is done there
 */
export function stopsThroughRelays(
  making: Making,
  breakers: ReadonlySet<string>,
): ReadonlyMap<string, readonly Stop[]> {
  const { job } = making
  const walked = making.walked
  const through = new Map<string, Stop[]>()
  const powered = new Set(breakers)
  const all = withoutAddress(making)
  // The order puts it on, for those with an address that hang on it, as soon as there is one.
  const isToCome = (breaker: string) =>
    !isGroupLive(job, making.record, breaker) &&
    job.devices.some((each) => walked.has(each.id) && groupOf(each) === breaker)
  for (const devices of rowsOf(making)) {
    const [device] = devices
    if (!device) continue
    const stop = devices.length === 1 ? singleStop(making, device) : rowStop(making, devices)
    const relay = relayOf(job, device, walked)
    const power = devices.flatMap((each) => {
      const breaker = breakerOf(job, each)
      if (powered.has(breaker) || isToCome(breaker)) return []
      powered.add(breaker)
      return [
        powerStopBeside(
          making,
          breaker,
          all.filter((one) => breakerOf(job, one) === breaker),
        ),
      ]
    })
    const stops = [...power, stop].filter(({ steps }) => steps.length > 0)
    if (stops.length > 0) through.set(relay, [...(through.get(relay) ?? []), ...stops])
  }
  return through
}

/** What is left when power is on. */
const AFTER_POWER: readonly Phase[] = phases.filter((phase) => phase !== 'before-power' && phase !== 'power')

/** Each device by itself, and equal ones behind one relay whose run takes them together, by their unit ids. */
function rowsOf(making: Making): readonly (readonly Device[])[] {
  const { job, record } = making
  const rows = new Map<string, Device[]>()
  for (const device of withoutAddress(making)) {
    const run = runOfDevice(job, record, device)
    const together = run?.together && (device.behindId !== null || device.nodes.length > 0)
    const key = together ? rowKey(device, run) : device.id
    rows.set(key, [...(rows.get(key) ?? []), device])
  }
  const number = ({ unitId }: Device) => unitId ?? Infinity
  return [...rows.values()].map((row) => row.sort((a, b) => number(a) - number(b) || a.position - b.position))
}

/** Equal ones behind one relay; those that a search lists, by their line: each line is searched by itself. */
function rowKey(device: Device, run: RunFacts): string {
  const line = run.steps.some(({ check }) => check === 'nodes-listed') ? ` ${device.nodes[0]?.lineId ?? ''}` : ''
  return `row ${device.behindId ?? ''} ${run.id} ${device.kind}${line}`
}

function singleStop(making: Making, device: Device): Stop {
  const { job } = making
  const key = `device ${device.id}`
  const behind = job.devices.find((each) => each.id === device.behindId)
  const reason = behind
    ? `It has no address of its own: it is reached through ${behind.tag}.`
    : 'It has no address of its own.'
  const { handsOnSeconds } = settingOf(job, device)
  const steps = making.deviceSteps(key, device, AFTER_POWER)
  return stopOf({
    key,
    title: `${device.tag}: ${device.what}`,
    reason,
    devices: [device],
    seconds: handsOnSeconds,
    steps,
  })
}

/** A row: what is the same is said once, each turn is a tick of its own. */
function rowStop(making: Making, devices: readonly Device[]): Stop {
  const { job, record } = making
  const [first] = devices
  const run = first && runOfDevice(job, record, first)
  const relay = job.devices.find((each) => each.id === first?.behindId)
  const key = first && run ? rowKey(first, run) : ''
  const steps = (run?.steps ?? []).flatMap(({ id }) =>
    saidOnce(
      making,
      key,
      devices.flatMap((device) =>
        making
          .rawSteps(device, AFTER_POWER)
          .filter((step) => step.id === id)
          .map((step) => ({ device, step })),
      ),
    ),
  )
  const kind = first ? kindFacts(first.kind, job.kinds).name : ''
  return stopOf({
    key,
    title: `A row of ${devices.length} behind ${relay?.tag ?? ''}: ${first?.tag ?? ''} to ${devices.at(-1)?.tag ?? ''}`,
    reason: `${kind}: searched for once, done in turn, then read all at once.`,
    devices,
    seconds: devices.reduce((sum, device) => sum + settingOf(job, device).handsOnSeconds, 0),
    steps,
  })
}

/** What hangs behind a gateway is counted when all of it has been walked. */
export function countStops(making: Making, relayIds: readonly string[]): readonly Stop[] {
  const { job, record, walked } = making
  return job.devices.flatMap((device) => {
    if (!relayIds.includes(device.id) || !walked.has(device.id)) return []
    const key = `behind ${device.id}`
    const counts = (runOfDevice(job, record, device)?.steps ?? []).filter((step) => step.check === 'units-behind')
    const steps = counts.map((step) => making.step(key, device, filledStep(step, making.fields(device))))
    const behind = job.devices.filter((each) => each.behindId === device.id)
    // A row reads all of itself: where there is nothing but rows, everything has been counted.
    const isRead = (each: Device) =>
      runOfDevice(job, record, each)?.steps.some((step) => step.check === 'row-answers') ?? false
    if (steps.length === 0 || behind.every(isRead)) return []
    const title = `Count what is behind ${device.tag}`
    return [stopOf({ key, title, reason: 'Everything behind it has been walked.', devices: [device], steps })]
  })
}

/** The nearest device with an address that another is reached through; blank where there is none. */
function relayOf(job: Job, device: Device, walked: ReadonlySet<string>): string {
  const seen = new Set<string>()
  for (let id = device.behindId; id !== null && !seen.has(id);) {
    if (walked.has(id)) return id
    seen.add(id)
    id = job.devices.find((each) => each.id === id)?.behindId ?? null
  }
  return ''
}

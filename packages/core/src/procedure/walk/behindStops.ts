import { settingOf, type Device, type Job } from '../../job'
import { plannedOf } from '../fields'
import { phases } from '../run'
import { stopOf, type Making } from './making'
import { runOfDevice, type Stop } from './model'
import { filledStep } from './steps'

/** Stops of devices without an address of their own, by the device with one that they are reached through. */
export function stopsThroughRelays(making: Making): ReadonlyMap<string, readonly Stop[]> {
  const { job, record, given } = making
  const walked = new Set(given.devices.map((device) => device.id))
  const through = new Map<string, Stop[]>()
  for (const device of job.devices) {
    if (walked.has(device.id) || record.settings.leftOut.includes(device.id) || plannedOf(job, device)) continue
    const key = `device ${device.id}`
    const steps = making.deviceSteps(key, device, phases)
    if (steps.length === 0) continue
    const behind = job.devices.find((each) => each.id === device.behindId)
    const reason = behind
      ? `It has no address of its own: it is reached through ${behind.tag}.`
      : 'It has no address of its own.'
    const { handsOnSeconds } = settingOf(job, device)
    const title = `${device.tag}: ${device.what}`
    const stop = stopOf({ key, title, reason, devices: [device], seconds: handsOnSeconds, steps })
    const relay = relayOf(job, device, walked)
    through.set(relay, [...(through.get(relay) ?? []), stop])
  }
  return through
}

/** What hangs behind a gateway is counted when all of it has been walked. */
export function countStops(making: Making, relayIds: readonly string[]): readonly Stop[] {
  const { job, record, given } = making
  return job.devices.flatMap((device) => {
    if (!relayIds.includes(device.id) || !given.devices.some((each) => each.id === device.id)) return []
    const key = `behind ${device.id}`
    const counts = (runOfDevice(job, record, device)?.steps ?? []).filter((step) => step.check === 'units-behind')
    const steps = counts.map((step) => making.step(key, device, filledStep(step, making.fields(device))))
    if (steps.length === 0 || !job.devices.some((each) => each.behindId === device.id)) return []
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

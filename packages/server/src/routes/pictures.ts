import { formatIpv4 } from '@calm/core/address'
import type { Device, Job } from '@calm/core/job'
import {
  laptopSees,
  nearestWithAddress,
  portOf,
  presentOf,
  type FieldDevice,
  type LaptopState,
  type Picture,
  type WalkRecord,
} from '@calm/core/procedure'
import { keepsakes } from '../db'
import { portsOf, probe } from '../firstContact'
import type { LiveContext } from '../live'
import type { Store } from '../store'
import { picturedValues, type WhereItIs } from './picturedValues'

/** A picture of what runs: who answers, what it says it is, what it measures, what somebody wrote down. */
export async function takePicture(
  context: LiveContext,
  job: Job,
  record: WalkRecord,
  laptop: LaptopState,
  notes: readonly string[],
  fieldDevices: readonly FieldDevice[] | undefined,
): Promise<Picture> {
  const lookAt = async (device: Device, address: string) => {
    if (!laptopSees(laptop, address)) return { tag: device.tag, answers: null, identity: '' }
    const seen = await probe(context, job.mode, address, portsOf(device))
    return { tag: device.tag, answers: seen.answers, identity: seen.identities.join(' and ') }
  }
  // Where nobody knows where it is, as with a lease, it is looked for where it is planned.
  const placeOf = (device: Device): string | undefined => {
    const present = presentOf(job, record, device)
    return portOf(device) && (present ? formatIpv4(present.address) : (portOf(device)?.address ?? undefined))
  }
  const devices = await Promise.all(
    job.devices.flatMap((device) => {
      const address = placeOf(device)
      return address ? [lookAt(device, address)] : []
    }),
  )
  const answers = new Map(devices.map((device) => [device.tag, device.answers]))
  // A value is that of a device only where that device is: at its planned address, or behind one that is.
  const stands = (id: string): WhereItIs => {
    const device = nearestWithAddress(
      job,
      job.devices.find((each) => each.id === id),
    )
    if (!device || placeOf(device) !== portOf(device)?.address) return 'elsewhere'
    const does = answers.get(device.tag)
    return does === true ? 'there' : does === false ? 'silent' : 'elsewhere'
  }
  const values = await picturedValues(context, job, stands)
  return {
    at: context.clock(),
    devices,
    notes,
    ...(fieldDevices && { fieldDevices }),
    ...(values.length > 0 && { values }),
  }
}

/** The latest picture that was kept. */
export async function latestPicture(
  store: Store,
  jobId: string,
  when: 'before' | 'after',
): Promise<Picture | undefined> {
  const row = await store.read((manager) =>
    manager.findOne(keepsakes, { where: { jobId, kind: `picture-${when}` }, order: { at: 'DESC' } }),
  )
  return row ? (JSON.parse(row.content) as Picture) : undefined
}

/** The latest pictures that were kept. */
export const picturesOf = async (store: Store, jobId: string) => ({
  before: await latestPicture(store, jobId, 'before'),
  after: await latestPicture(store, jobId, 'after'),
})

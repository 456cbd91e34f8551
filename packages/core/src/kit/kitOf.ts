import { settingOf, type Device, type Job } from '../job'
import { latestFact, type WalkRecord } from '../procedure'
import { kitParts, kitRules, type KitNeed, type KitPart } from './rules'

/** One line of the kit list. */
export interface KitItem extends KitNeed {
  /** The same while it is for the same: a tick stays with it. */
  readonly id: string
  readonly part: KitPart
}

/** Everything to take along for a job, by part of the bag; computed from the devices that are walked. */
export function kitOf(job: Job, record: WalkRecord): readonly KitItem[] {
  const devices = job.devices.filter(({ id }) => !record.settings.leftOut.includes(id))
  const about = { job, record, devices }
  const items = kitRules.flatMap(({ id, part, needs }) =>
    needs(about).map((need) => ({ ...need, part, id: [id, need.what, ...need.whom].join(' | ').slice(0, 300) })),
  )
  const parts = Object.keys(kitParts)
  return items.sort((a, b) => parts.indexOf(a.part) - parts.indexOf(b.part))
}

/** Setting under which it is kept who holds a password: the fact, never the secret. */
export const PASSWORD_HOLDER = 'password held by'

/** A device that somebody logs in to, and who holds its password; blank where nobody said. */
export interface Password {
  readonly device: Device
  readonly holder: string
}

/** Ways of setting behind a log-in. @source common practice, no source */
const WITH_LOG_IN: readonly string[] = ['web-page', 'engineering-tool', 'serial-menu', 'phone-app', 'discovery-tool']

/** Whose passwords are needed, and who holds them. */
export const passwordsOf = (job: Job, record: WalkRecord): readonly Password[] =>
  job.devices
    .filter(
      (device) =>
        !record.settings.leftOut.includes(device.id) &&
        device.ports.length > 0 &&
        (WITH_LOG_IN.includes(settingOf(job, device).way) || device.kind === 'supervisor'),
    )
    .map((device) => ({ device, holder: latestFact(record, device.id, PASSWORD_HOLDER)?.text ?? '' }))

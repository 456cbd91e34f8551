import { deviceOf, type Job } from '../job'
import { kindFacts, kindsOf } from '../kind'
import { ok, refusal } from '../units'
import { oneOf } from './cells'
import { mapped, type DeviceColumn } from './column'

/** Unique within a job. */
export const tag: DeviceColumn = {
  id: 'tag',
  name: 'Tag',
  heads: ['tag', 'device', 'devicetag', 'equipment', 'id', 'name'],
  typed: false,
  text: (device) => device.tag,
  read: (text, job, device) => {
    const typed = text.trim()
    if (typed === '') return refusal('row.tag-blank', 'The tag is blank.', 'nothing', 'a tag such as EM-501')
    if (typed.length > 40) return refusal('row.tag-long', 'The tag is too long.', typed, 'at most 40 characters')
    const holder = job.devices.find((each) => each.tag === typed)
    return holder && holder.id !== device?.id
      ? refusal('row.tag-taken', `There is a device ${typed} already.`, typed, 'a tag of its own')
      : ok({ device: { tag: typed } })
  },
}

export const kind: DeviceColumn = {
  id: 'kind',
  name: 'Kind',
  heads: ['kind', 'type', 'devicetype', 'class'],
  typed: false,
  text: (device, job) => kindFacts(device.kind, job.kinds).name,
  read: (text, job) =>
    mapped(
      oneOf(
        text,
        'a kind',
        kindsOf(job.kinds).map((each) => [each.id, each.name]),
      ),
      (id) => ({ device: { kind: id } }),
    ),
  choices: (job) => kindsOf(job.kinds).map((each) => each.name),
}

/** What it hangs behind, by tag. */
export const behind: DeviceColumn = {
  id: 'behind',
  name: 'Behind',
  heads: ['behind', 'via', 'parent', 'master', 'throughgateway'],
  typed: false,
  text: (device, job) => tagOf(job, device.behindId),
  read: (text, job, device) => {
    const typed = text.trim()
    if (typed === '') return ok({ device: { behindId: null } })
    const other = job.devices.find((each) => each.tag === typed)
    if (!other) return refusal('row.behind', `There is no device ${typed} to hang behind.`, typed, 'a tag of this job')
    if (other.id === device?.id)
      return refusal('row.behind-self', 'A device cannot hang behind itself.', typed, 'another device')
    return ok({ device: { behindId: other.id } })
  },
  choices: (job) =>
    job.devices.filter((each) => kindFacts(each.kind, job.kinds).role === 'gateway').map((each) => each.tag),
}

export const tagOf = (job: Job, id: string | null) => (id === null ? '' : (deviceOf(job, id)?.tag ?? ''))

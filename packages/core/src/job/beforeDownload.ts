import { factsOf } from '../evidence'
import { otherEnd, type ClaspRow, type End, type TermId } from '../terms'
import { deviceOf } from './deviceOf'
import { evidenceOf } from './evidenceOf'
import { termContextOf } from './handshakeTerms'
import type { Device, ForcedValue, Handshake, Job } from './model'
import { claspFor, standingFor } from './standing'
import { holderOf, meansTheSame, type Seen } from './termStandings'

/** Whether the thing that a program is sent to is the one that is meant. */
export interface TargetCheck {
  readonly what: 'order code' | 'serial number' | 'product code'
  readonly planned: string
  /** Where it was seen; blank where nobody has looked. */
  readonly seen: string
  readonly state: 'same' | 'differs' | 'not-compared'
}

/** A setting at work that is another one than what will be sent. */
export interface Overwritten {
  readonly handshake: Handshake
  readonly id: TermId
  readonly name: string
  readonly there: Seen
  readonly planned: string
}

/** What is known, before a program or a set-up is sent to a device, of what it overwrites. */
export interface BeforeDownload {
  readonly target: readonly TargetCheck[]
  readonly overwritten: readonly Overwritten[]
  /** Settings that are at work as they are planned. */
  readonly same: number
  /** Settings that nobody has looked at, with the other end: what stands there is not known, and is lost all the same. */
  readonly neverSeen: readonly { readonly name: string; readonly otherTag: string }[]
  /** Values held by hand whose place names the device. */
  readonly forced: readonly ForcedValue[]
  /** What "send" covers, as its terms say; blank where they do not. */
  readonly scope: string
}

/**
 * What a download overwrites at a device, as far as anybody has looked: settings at work or found that differ from the
 * plan, what is held by hand, and whether it is the right target. A term that several handshakes share counts once.
 */
export function beforeDownload(job: Job, device: Device): BeforeDownload {
  const overwritten: Overwritten[] = []
  const neverSeen: BeforeDownload['neverSeen'][number][] = []
  const told = new Set<string>()
  let same = 0
  let scope = ''
  for (const { handshake, end } of endsOf(job, device)) {
    const standings = standingFor(job, handshake)
    const { rows } = claspFor(job, handshake)
    const { terms, tags } = termContextOf(job, handshake)
    for (const row of rows) {
      const reading = row.ends[end]
      if (reading.state !== 'read' || reading.derived) continue
      if (row.id === 'send-scope') scope = reading.shown
      const key = `${holderOf(job, handshake, row.id, end)} ${row.id}`
      if (told.has(key)) continue
      told.add(key)
      const there = atWork(standings.get(row.id)?.[end].seen ?? {})
      if (!there) neverSeen.push({ name: row.name, otherTag: tags[otherEnd[end]] })
      else if (meansTheSame(row.id, end, reading.entry, there, terms)) same += 1
      else overwritten.push({ handshake, id: row.id, name: row.name, there, planned: plannedText(row, end) })
    }
  }
  const forced = job.forced.filter(({ releasedAt, where }) => releasedAt === null && namesTag(where, device.tag))
  return { target: targetOf(job, device), overwritten, same, neverSeen, forced, scope }
}

const endsOf = (job: Job, { id }: Device): readonly { readonly handshake: Handshake; readonly end: End }[] =>
  job.handshakes.flatMap((handshake) => [
    ...(handshake.controllerId === id ? [{ handshake, end: 'controller' as const }] : []),
    ...(handshake.deviceId === id ? [{ handshake, end: 'device' as const }] : []),
  ])

/** What a download finds there: the later of what was seen in force and what was found. */
const atWork = ({ found, 'in-force': inForce }: { readonly found?: Seen; readonly 'in-force'?: Seen }) =>
  found && (!inForce || found.at > inForce.at) ? found : inForce

const plannedText = (row: ClaspRow, end: End): string => {
  const reading = row.ends[end]
  return reading.state === 'read' ? reading.shown : ''
}

/** Whether a place names a tag as a word of its own: `PD-10` is not `PD-101`. */
const namesTag = (where: string, tag: string): boolean =>
  new RegExp(`(^|[^A-Za-z0-9-])${tag.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}($|[^A-Za-z0-9-])`, 'i').test(where)

function targetOf(job: Job, device: Device): readonly TargetCheck[] {
  const check = (what: TargetCheck['what'], planned: string, seen: string): readonly TargetCheck[] => {
    if (planned === '' && seen === '') return []
    const state = planned === '' || seen === '' ? 'not-compared' : alike(planned, seen) ? 'same' : 'differs'
    return [{ what, planned, seen, state }]
  }
  const told = productCodeOf(job, device)
  return [
    ...check('order code', device.orderCode, device.orderCodeFound),
    // What it told of itself when it was last reached, beside the parts list.
    ...(told === '' ? [] : check('product code', device.orderCode, told)),
    // There is one serial number in the plan, the one of the label: it is for the eye, at the device.
    ...check('serial number', device.serialNumber, ''),
  ]
}

const alike = (one: string, other: string) => one.trim().toLowerCase() === other.trim().toLowerCase()

function productCodeOf(job: Job, device: Device): string {
  let latest: { readonly at: number; readonly text: string } | undefined
  for (const handshake of job.handshakes.filter(({ deviceId }) => deviceId === device.id))
    for (const { facts, at } of evidenceOf(job, handshake)) {
      const code = factsOf(facts, 'identity').find(({ name }) => name === 'product code')
      if (code && (!latest || at >= latest.at)) latest = { at, text: code.text }
    }
  return latest?.text ?? ''
}

/** Both ends of a handshake, as targets of a download. */
export const downloadTargets = (job: Job, handshake: Handshake): readonly Device[] =>
  [handshake.controllerId, handshake.deviceId].flatMap((id) => deviceOf(job, id) ?? [])

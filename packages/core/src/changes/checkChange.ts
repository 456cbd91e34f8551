import { deviceOf, isFromLineUp, rowKinds, type AnyRow, type Handshake, type Job, type RowTable } from '../job'
import { isKnownKind } from '../kind'
import { termDefinition, type End, type TermId } from '../terms'
import type { Refusal } from '../units'
import type { Change, RowFields } from './change'
import { ownerIdOf } from './apply'
import { rowsById } from './rowsIn'

/** Why a change cannot be, and at which field. */
export interface ChangeRefusal extends Pick<Refusal, 'what' | 'expected' | 'found'> {
  readonly field: string
}

const no = (field: string, what: string, expected: string, found: string): ChangeRefusal => ({
  field,
  what,
  expected,
  found,
})

/**
 * What must hold among the rows of a job besides what a schema sees: links to rows that are there, names of their own,
 * nothing that names itself.
 * @param job as it stands after the change and those that go with it
 */
export function checkChange(job: Job, change: Change): ChangeRefusal | undefined {
  if (change.op !== 'add' && change.op !== 'set') return undefined
  const links = brokenLink(job, change)
  return links ?? CHECKS[change.table]?.(job, change.fields, change.id)
}

/** The same for a row that is to be brought back: somebody may have taken its name meanwhile. */
export const checkReturn = (job: Job, table: RowTable, row: AnyRow): ChangeRefusal | undefined =>
  CHECKS[table]?.(job, row, row.id)

function brokenLink(job: Job, change: Extract<Change, { op: 'add' | 'set' }>): ChangeRefusal | undefined {
  const kind = rowKinds[change.table]
  for (const [name, value] of Object.entries(change.fields)) {
    const type = kind.fields[name]?.type
    if (type?.is !== 'row' || type.of === 'any' || typeof value !== 'string') continue
    if (!rowsById(job, type.of).has(value))
      return no(name, `There is no such ${type.of} in this job.`, `a ${type.of} of this job`, value)
  }
  if (change.op !== 'add' || kind.owner === 'job' || kind.owner === 'none') return undefined
  const owner = ownerIdOf(change)
  return rowsById(job, kind.owner).has(owner)
    ? undefined
    : no(`${kind.owner}Id`, `There is no such ${kind.owner} in this job.`, `a ${kind.owner} of this job`, owner)
}

type Check = (job: Job, fields: RowFields, id: string) => ChangeRefusal | undefined

const CHECKS: Readonly<Partial<Record<RowTable, Check>>> = {
  line: (job, { name }, id) =>
    job.lines.some((line) => line.name === name && line.id !== id)
      ? no('name', `There is a line ${name} already.`, 'a name of its own', String(name))
      : undefined,
  device: deviceCheck,
  kind: (job, { facts }, id) => {
    const own = (facts as { readonly id: string } | undefined)?.id
    return own !== undefined &&
      isKnownKind(
        own,
        job.kinds.filter((kind) => kind.id !== id),
      )
      ? no('facts.id', `There is a kind ${own} already.`, 'an id of its own', own)
      : undefined
  },
  request: (job, { deviceIds }) => {
    const ids = (deviceIds as readonly string[] | undefined) ?? []
    const found = ids.filter((id) => deviceOf(job, id)).length
    return found === ids.length
      ? undefined
      : no(
          'deviceIds',
          'A device of the request is not in this job.',
          'devices of this job',
          `${found} of ${ids.length}`,
        )
  },
  handshake: handshakeCheck,
  term: termCheck,
}

/** Tags are unique within a job, so that a record can be read without ids. */
function deviceCheck(job: Job, fields: RowFields, id: string): ChangeRefusal | undefined {
  const { tag, kind } = fields
  if (typeof tag === 'string' && (holdersOf(job).get(tag) ?? id) !== id)
    return no('tag', `There is a device ${tag} already.`, 'a tag of its own', tag)
  if (typeof kind === 'string' && !isKnownKind(kind, job.kinds))
    return no('kind', `There is no kind ${kind} here.`, 'a kind that ships, or one of this job', kind)
  for (const name of ['behindId', 'firmwareOfId'])
    if (fields[name] === id) return no(name, 'A device cannot name itself here.', 'another device', id)
  return undefined
}

/** In place of a holder where a tag has several. */
const SEVERAL = 'several'
const holders = new WeakMap<Job['devices'], ReadonlyMap<string, string>>()

/** Which device has a tag. */
function holdersOf(job: Job): ReadonlyMap<string, string> {
  const known = holders.get(job.devices)
  if (known) return known
  const made = new Map<string, string>()
  for (const { tag, id } of job.devices) made.set(tag, made.has(tag) ? SEVERAL : id)
  holders.set(job.devices, made)
  return made
}

function handshakeCheck(job: Job, fields: RowFields, id: string): ChangeRefusal | undefined {
  const now = job.handshakes.find((each) => each.id === id)
  const controllerId = String(fields.controllerId ?? now?.controllerId ?? '')
  const deviceId = String(fields.deviceId ?? now?.deviceId ?? '')
  if (controllerId === deviceId) return no('deviceId', 'Both ends are one device.', 'two devices', deviceId)
  const same = job.handshakes.find(
    (each) => each.id !== id && each.controllerId === controllerId && each.deviceId === deviceId,
  )
  if (!same) return undefined
  const [controller, device] = [deviceOf(job, controllerId)?.tag, deviceOf(job, deviceId)?.tag]
  return no('deviceId', `${controller} and ${device} have a handshake already.`, 'another pair', same.name)
}

/** Only at an end that does not take the term from the line-up, and once. */
function termCheck(job: Job, fields: RowFields, id: string): ChangeRefusal | undefined {
  const { termId, end } = fields as { readonly termId?: TermId; readonly end?: End }
  if (termId === undefined || end === undefined) return undefined
  const { name } = termDefinition(termId)
  if (isFromLineUp(termId, end))
    return no(
      'termId',
      `${name} of the ${end} end is held by the line-up.`,
      'a change of the device or its port',
      termId,
    )
  const holder = rowsById(job, 'term').get(id)?.owner as Handshake | undefined
  const other = holder?.terms.find((term) => term.termId === termId && term.end === end && term.id !== id)
  return other
    ? no('termId', `${name} of the ${end} end is written down already.`, 'a change of it', other.text)
    : undefined
}

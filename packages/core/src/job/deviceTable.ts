import { formatIpv4, parseIpv4 } from '../address'
import { parseUnitId } from '../modbus'
import { ok, refusal, type Refusal, type Result } from '../units'
import { deviceKinds } from './kinds'
import type { DeviceKind } from './model'

/** A column of a device table as people keep it in a spreadsheet. */
export type DeviceColumn = 'tag' | 'what' | 'kind' | 'address' | 'unitId' | 'asFound' | 'behind' | 'note'

export interface DeviceColumnFacts {
  readonly name: string
  /** Heads under which it is found, in small letters without spaces and marks. */
  readonly heads: readonly string[]
}

/** @source common practice, no source */
export const deviceColumns: Readonly<Record<DeviceColumn, DeviceColumnFacts>> = {
  tag: { name: 'Tag', heads: ['tag', 'device', 'devicetag', 'equipment', 'id', 'name'] },
  what: { name: 'What it is', heads: ['what', 'whatitis', 'description', 'designation', 'text', 'service'] },
  kind: { name: 'Kind', heads: ['kind', 'type', 'devicetype', 'class'] },
  address: { name: 'Planned address', heads: ['address', 'plannedaddress', 'ip', 'ipaddress', 'ipv4', 'ipplanned'] },
  unitId: { name: 'Unit id', heads: ['unit', 'unitid', 'modbusid', 'slave', 'slaveid', 'node'] },
  asFound: { name: 'As found', heads: ['asfound', 'found', 'default', 'factoryaddress', 'currentip', 'oldip'] },
  behind: { name: 'Behind', heads: ['behind', 'via', 'gateway', 'parent', 'master'] },
  note: { name: 'Note', heads: ['note', 'notes', 'remark', 'remarks', 'comment'] },
}

/** Which column of the pasted table holds what; `undefined` where a column is left out. */
export type ColumnMatch = readonly (DeviceColumn | undefined)[]

const plain = (text: string) => text.toLowerCase().replace(/[^a-z0-9]/g, '')

/**
 * Guesses the columns from a first row. A row in which at least two cells are known heads is a head; else the columns
 * are guessed from what stands in them: addresses, and the first column as the tag.
 */
export function matchColumns(rows: readonly (readonly string[])[]): {
  readonly match: ColumnMatch
  readonly hasHead: boolean
} {
  const [first = []] = rows
  const used = new Set<DeviceColumn>()
  const byHead = first.map((cell) => {
    const column = (Object.keys(deviceColumns) as DeviceColumn[]).find(
      (each) => !used.has(each) && deviceColumns[each].heads.includes(plain(cell)),
    )
    if (column) used.add(column)
    return column
  })
  if (byHead.filter((column) => column !== undefined).length >= 2) return { match: byHead, hasHead: true }
  const width = Math.max(0, ...rows.map((row) => row.length))
  const looksLikeAddress = (column: number) => {
    const cells = rows.map((row) => row[column]?.trim() ?? '').filter((cell) => cell !== '')
    return cells.length > 0 && cells.every((cell) => /^\d{1,3}([.,]\d{1,3}){3}$/.test(cell))
  }
  const address = Array.from({ length: width }, (_, k) => k).find(looksLikeAddress)
  const match = Array.from({ length: width }, (_, k): DeviceColumn | undefined =>
    k === address ? 'address' : k === 0 ? 'tag' : k === 1 ? 'what' : undefined,
  )
  return { match, hasHead: false }
}

/** One row as a device, as far as it can be read. */
export interface DeviceRowReading {
  /** Line of the pasted text, from 1. */
  readonly line: number
  readonly cells: readonly string[]
  readonly device: RowDevice | undefined
  readonly problems: readonly { readonly column: DeviceColumn; readonly refusal: Refusal }[]
}

export interface RowDevice {
  readonly tag: string
  readonly what: string
  readonly kind: DeviceKind
  readonly address: string | null
  readonly unitId: number | null
  readonly asFound: string
  /** Tag of the device it hangs behind: one of the job or of the same table. */
  readonly behindTag: string | null
  readonly note: string
}

/**
 * Reads rows as devices. A row that cannot be read says why, cell by cell, and does not keep the others back; empty
 * rows are passed over.
 * @param taken tags that the job has already
 */
export function readDeviceRows(
  rows: readonly (readonly string[])[],
  match: ColumnMatch,
  hasHead: boolean,
  taken: ReadonlySet<string>,
): readonly DeviceRowReading[] {
  const body = rows.map((cells, k) => ({ cells, line: k + 1 })).slice(hasHead ? 1 : 0)
  const tagAt = match.indexOf('tag')
  const ownTags = new Set(body.map(({ cells }) => cells[tagAt]?.trim() ?? ''))
  const seen = new Set<string>()
  return body
    .filter(({ cells }) => cells.some((cell) => cell.trim() !== ''))
    .map(({ cells, line }) => readRow(cells, line, match, { taken, ownTags, seen }))
}

interface Surroundings {
  readonly taken: ReadonlySet<string>
  readonly ownTags: ReadonlySet<string>
  readonly seen: Set<string>
}

function readRow(cells: readonly string[], line: number, match: ColumnMatch, around: Surroundings): DeviceRowReading {
  const problems: { column: DeviceColumn; refusal: Refusal }[] = []
  const cell = (column: DeviceColumn) => {
    const index = match.indexOf(column)
    return index < 0 ? '' : (cells[index]?.trim() ?? '')
  }
  const take = <T>(column: DeviceColumn, reading: Result<T>): T | undefined => {
    if (reading.ok) return reading.value
    problems.push({ column, refusal: reading.refusal })
    return undefined
  }
  const tag = take('tag', readTag(cell('tag'), around))
  const kind = take('kind', readKind(cell('kind'), cell('behind') !== ''))
  const address = take('address', readOrNone(cell('address'), parseIpv4))
  const unitId = take(
    'unitId',
    readOrNone(cell('unitId'), (text) => parseUnitId(text, 'tcp')),
  )
  const behindTag = take('behind', readBehind(cell('behind'), around))
  if (
    problems.length > 0 ||
    tag === undefined ||
    kind === undefined ||
    address === undefined ||
    unitId === undefined ||
    behindTag === undefined
  ) {
    return { line, cells, device: undefined, problems }
  }
  const device: RowDevice = {
    tag,
    kind,
    unitId,
    behindTag,
    what: cell('what').slice(0, 120),
    address: address === null ? null : formatIpv4(address),
    asFound: cell('asFound').slice(0, 120),
    note: cell('note').slice(0, 120),
  }
  return { line, cells, device, problems }
}

/** A blank cell leaves it open. */
function readOrNone<T>(text: string, read: (text: string) => Result<T>): Result<T | null> {
  return text === '' ? ok(null) : read(text)
}

function readTag(text: string, { taken, seen }: Surroundings): Result<string> {
  if (text === '') return refusal('row.tag-blank', 'The tag is blank.', 'nothing', 'a tag such as EM-501')
  if (text.length > 40) return refusal('row.tag-long', 'The tag is too long.', text, 'at most 40 characters')
  if (taken.has(text)) return refusal('row.tag-taken', `There is a device ${text} already.`, text, 'a tag of its own')
  if (seen.has(text)) return refusal('row.tag-twice', `${text} stands in the table twice.`, text, 'a tag of its own')
  seen.add(text)
  return ok(text)
}

function readKind(text: string, isBehind: boolean): Result<DeviceKind> {
  if (text === '') return ok(isBehind ? 'field-device' : 'remote-io')
  const kinds = Object.keys(deviceKinds) as DeviceKind[]
  const known = kinds.find((kind) => plain(kind) === plain(text) || plain(deviceKinds[kind].name) === plain(text))
  return known
    ? ok(known)
    : refusal(
        'row.kind',
        `"${text}" is not a kind known here.`,
        text,
        kinds.map((kind) => deviceKinds[kind].name).join(', '),
      )
}

function readBehind(text: string, { taken, ownTags }: Surroundings): Result<string | null> {
  if (text === '') return ok(null)
  return taken.has(text) || ownTags.has(text)
    ? ok(text)
    : refusal('row.behind', `There is no device ${text} to hang behind.`, text, 'a tag of this job or of this table')
}

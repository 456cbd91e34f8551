import type { Device, Job } from '../job'
import { ok, refusal, type Refusal, type Result } from '../units'
import { cellChanges, mergedEdits, newDeviceChanges, nextPosition } from './cellChanges'
import type { Change } from '../changes'
import type { CellEdit, DeviceColumnId } from './column'
import { deviceColumn, deviceColumns } from './columns'

/** Which column of a table holds what; `undefined` where a column is left out. */
export type ColumnMatch = readonly (DeviceColumnId | undefined)[]

const plain = (text: string) => text.toLowerCase().replace(/[^a-z0-9]/g, '')

/**
 * Guesses the columns from a first row. A row in which at least two cells are known heads is a head; else the columns
 * are guessed from what stands in them: addresses, and the first column as the tag.
 * @param remembered what a person chose for a head before, by the head without spaces and marks
 */
export function matchColumns(
  rows: readonly (readonly string[])[],
  remembered: Readonly<Record<string, DeviceColumnId | ''>> = {},
): {
  readonly match: ColumnMatch
  readonly hasHead: boolean
} {
  const [first = []] = rows
  const used = new Set<DeviceColumnId>()
  const byHead = first.map((cell) => {
    const head = plain(cell)
    const before = remembered[head]
    const column =
      before === ''
        ? undefined
        : (deviceColumns.find((each) => !used.has(each.id) && each.id === before) ??
          deviceColumns.find((each) => !used.has(each.id) && (each.heads.includes(head) || plain(each.name) === head)))
    if (column) used.add(column.id)
    return column?.id
  })
  if (byHead.filter((column) => column !== undefined).length >= 2) return { match: byHead, hasHead: true }
  const width = rows.reduce((most, row) => Math.max(most, row.length), 0)
  const looksLikeAddress = (column: number) => {
    const cells = rows.map((row) => row[column]?.trim() ?? '').filter((cell) => cell !== '')
    return cells.length > 0 && cells.every((cell) => /^\d{1,3}([.,]\d{1,3}){3}$/.test(cell))
  }
  const address = Array.from({ length: width }, (_, k) => k).find(looksLikeAddress)
  const match = Array.from({ length: width }, (_, k): DeviceColumnId | undefined =>
    k === address ? 'address' : k === 0 ? 'tag' : k === 1 ? 'what' : undefined,
  )
  return { match, hasHead: false }
}

/** What to remember of a match, by head. */
export function rememberedMatch(
  head: readonly string[],
  match: ColumnMatch,
): Readonly<Record<string, DeviceColumnId | ''>> {
  return Object.fromEntries(head.map((cell, k) => [plain(cell), match[k] ?? '']).filter(([name]) => name !== ''))
}

/** One row as far as it can be read: a new device, or changes of one that is there. */
export interface DeviceRowReading {
  /** Line of the table, from 1. */
  readonly line: number
  readonly cells: readonly string[]
  readonly tag: string
  /** The device that has this tag already. */
  readonly device: Device | undefined
  readonly edit: CellEdit | undefined
  /** Tag of a device of the same table that it hangs behind. */
  readonly behindTag: string | undefined
  readonly problems: readonly { readonly column: DeviceColumnId; readonly refusal: Refusal }[]
}

/**
 * Reads rows as devices. A row that cannot be read says why, cell by cell, and does not keep the others back; empty
 * rows are passed over.
 * @param update whether a row with a tag of the job changes that device; else it is refused
 */
export function readDeviceRows(
  rows: readonly (readonly string[])[],
  match: ColumnMatch,
  hasHead: boolean,
  job: Job,
  update = false,
): readonly DeviceRowReading[] {
  const body = rows.map((cells, k) => ({ cells, line: k + 1 })).slice(hasHead ? 1 : 0)
  const tagAt = match.indexOf('tag')
  const around: Surroundings = {
    job,
    update,
    known: new Map(job.devices.map((device) => [device.tag, device])),
    ownTags: new Set(body.map(({ cells }) => cells[tagAt]?.trim() ?? '')),
    seen: new Set(),
    columns: match.flatMap((id, index) => (id === undefined || id === 'tag' ? [] : [{ id, index }])),
    tagAt,
  }
  return body
    .filter(({ cells }) => cells.some((cell) => cell.trim() !== ''))
    .map(({ cells, line }) => readRow(cells, line, around))
}

interface Surroundings {
  readonly job: Job
  readonly update: boolean
  readonly known: ReadonlyMap<string, Device>
  readonly ownTags: ReadonlySet<string>
  readonly seen: Set<string>
  readonly columns: readonly { readonly id: DeviceColumnId; readonly index: number }[]
  readonly tagAt: number
}

function readRow(cells: readonly string[], line: number, around: Surroundings): DeviceRowReading {
  const problems: { column: DeviceColumnId; refusal: Refusal }[] = []
  const take = <T>(column: DeviceColumnId, reading: Result<T>): T | undefined => {
    if (reading.ok) return reading.value
    problems.push({ column, refusal: reading.refusal })
    return undefined
  }
  const tag = cells[around.tagAt]?.trim() ?? ''
  const device = around.known.get(tag)
  take('tag', readTag(tag, device, around))
  const edits: CellEdit[] = []
  let behindTag: string | undefined
  for (const { id, index } of around.columns) {
    const text = cells[index]?.trim() ?? ''
    // A blank cell says nothing of a device that is not there yet, and a short row nothing of one that is.
    if (text === '' && (!device || index >= cells.length)) continue
    if (id === 'behind' && !around.known.has(text) && around.ownTags.has(text) && text !== tag) {
      behindTag = text
      continue
    }
    const edit = take(id, deviceColumn(id).read(text, around.job, device))
    if (edit) edits.push(edit)
  }
  const edit = problems.length === 0 ? mergedEdits(edits) : undefined
  return { line, cells, tag, device, edit, behindTag, problems }
}

function readTag(text: string, device: Device | undefined, { update, seen }: Surroundings): Result<string> {
  if (text === '') return refusal('row.tag-blank', 'The tag is blank.', 'nothing', 'a tag such as EM-501')
  if (text.length > 40) return refusal('row.tag-long', 'The tag is too long.', text, 'at most 40 characters')
  if (device && !update)
    return refusal(
      'row.tag-taken',
      `There is a device ${text} already.`,
      text,
      'a tag of its own, or leave to change those that are here',
    )
  if (seen.has(text)) return refusal('row.tag-twice', `${text} stands in the table twice.`, text, 'a tag of its own')
  seen.add(text)
  return ok(text)
}

/**
 * The rows that could be read as changes of the job. A new device that hangs behind another one and has no address gets
 * no port of its own.
 * @param networkId the network of new ports whose row names none
 */
export function tableChanges(
  readings: readonly DeviceRowReading[],
  job: Job,
  networkId: string | null,
  newId: () => string,
): readonly Change[] {
  const network = job.networks.find((each) => each.id === networkId)
  let position = nextPosition(job)
  const idOf = new Map<string, string>()
  const changes = readings.flatMap(({ tag, device, edit, behindTag }): readonly Change[] => {
    if (!edit) return []
    if (device) return cellChanges(job, device, edit, newId)
    const isBehind = behindTag !== undefined || typeof edit.device?.behindId === 'string'
    const withPort = !isBehind || typeof edit.port?.address === 'string'
    const kind = edit.device?.kind ?? (isBehind ? 'field-device' : 'remote-io')
    const port = { networkId: network?.id ?? null, gateway: network?.gateway ?? null, ...edit.port }
    const made = newDeviceChanges(
      job,
      { ...edit, device: { ...edit.device, tag, kind }, port },
      position,
      withPort,
      newId,
    )
    position += 1
    if (made[0]) idOf.set(tag, made[0].id)
    return made
  })
  return [...changes, ...readings.flatMap((reading) => hangsBehind(reading, idOf))]
}

/** Set when all devices of the table are there. */
function hangsBehind(
  { tag, edit, device, behindTag }: DeviceRowReading,
  idOf: ReadonlyMap<string, string>,
): readonly Change[] {
  const behindId = behindTag === undefined || !edit ? undefined : idOf.get(behindTag)
  const id = device?.id ?? idOf.get(tag)
  if (behindId === undefined || id === undefined) return []
  return [{ op: 'set', table: 'device', id, version: device?.version ?? 1, fields: { behindId } }]
}

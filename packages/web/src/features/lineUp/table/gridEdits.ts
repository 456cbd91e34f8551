import { formatIpv4, ipv4FromBits, parseIpv4 } from '@calm/core/address'
import type { Change } from '@calm/core/changes'
import type { Device, Job } from '@calm/core/job'
import { cellChanges, deviceColumn, mergedEdits, type CellEdit, type DeviceColumnId } from '@calm/core/lineUp'

/** What came of an edit of many cells: changes, or why nothing is changed. */
interface GridEdit {
  readonly changes: readonly Change[]
  /** Cells that could not be read, each as a sentence. While there is one, nothing is changed. */
  readonly problems: readonly string[]
}

/** A block of texts, put into the table from one row and column on. */
interface Block {
  readonly devices: readonly Device[]
  readonly columns: readonly DeviceColumnId[]
  readonly cells: readonly (readonly string[])[]
}

/** Puts texts into cells, row by row. All of them can be read, or nothing is changed. */
export function blockEdit(job: Job, { devices, columns, cells }: Block, newId: () => string): GridEdit {
  const problems: string[] = []
  if (cells.length > devices.length)
    problems.push(`${cells.length} rows were copied, and ${devices.length} are left from here on. Nothing is changed.`)
  const width = Math.max(0, ...cells.map((row) => row.length))
  if (width > columns.length)
    problems.push(`${width} columns were copied, and ${columns.length} are left from here on. Nothing is changed.`)
  if (problems.length > 0) return { changes: [], problems }
  const tags = new Map<string, string>()
  const changes = cells.flatMap((row, k) => {
    const device = devices[k]
    if (!device) return []
    const edits = row.flatMap((text, c): CellEdit[] => {
      const id = columns[c]
      if (!id) return []
      const reading = deviceColumn(id).read(text, job, device)
      if (reading.ok) return [reading.value]
      problems.push(`${device.tag}, ${deviceColumn(id).name}: ${reading.refusal.what}`)
      return []
    })
    const edit = mergedEdits(edits)
    const tag = edit.device?.tag
    if (tag !== undefined && tags.has(tag))
      problems.push(`${tag} would stand twice: at ${tags.get(tag)} and ${device.tag}.`)
    if (tag !== undefined) tags.set(tag, device.tag)
    return cellChanges(job, device, edit, newId)
  })
  return problems.length > 0 ? { changes: [], problems } : { changes, problems }
}

/** What follows below a cell: the same, but an address, a unit id counts up, because two cannot have the same. */
export function fillDown(id: DeviceColumnId, first: string, count: number): readonly string[] {
  return Array.from({ length: count }, (_, k) => nextBelow(id, first, k))
}

function nextBelow(id: DeviceColumnId, first: string, k: number): string {
  if (id === 'address') {
    const address = parseIpv4(first)
    return address.ok && address.value + k <= 0xffff_ffff ? formatIpv4(ipv4FromBits(address.value + k)) : first
  }
  if (id === 'unitId' && /^\d+$/.test(first)) return String(Number(first) + k)
  return first
}

/** Cells as a spreadsheet takes them: tabs between columns, one line for each row. */
export function cellsAsText(job: Job, devices: readonly Device[], columns: readonly DeviceColumnId[]): string {
  return devices
    .map((device) =>
      columns
        .map((id) =>
          deviceColumn(id)
            .text(device, job)
            .replace(/[\t\r\n]+/g, ' '),
        )
        .join('\t'),
    )
    .join('\n')
}

import { parse } from 'papaparse'
import { api } from '@calm/contract/api'
import { call, ProblemError } from '../api'

/** A table as it came out of a file or the clipboard, with what is to be said about it. */
interface TableReading {
  readonly rows: readonly (readonly string[])[]
  readonly notes: readonly string[]
  /** What was not read because it is too much at once, as it stands; blank where everything was. */
  readonly rest: string
}

const MARKS: readonly (readonly [encoding: string, bytes: readonly number[]])[] = [
  ['utf-8', [0xef, 0xbb, 0xbf]],
  ['utf-16le', [0xff, 0xfe]],
  ['utf-16be', [0xfe, 0xff]],
]

/**
 * Text of a file: by the mark at its beginning, else as UTF-8, else as Windows-1252, which most spreadsheets of Western
 * Europe write when they are asked for CSV.
 */
export function decodeText(bytes: Uint8Array): { readonly text: string; readonly note: string | undefined } {
  const marked = MARKS.find(([, mark]) => mark.every((byte, k) => bytes[k] === byte))
  if (marked) return { text: new TextDecoder(marked[0]).decode(bytes), note: undefined }
  try {
    return { text: new TextDecoder('utf-8', { fatal: true }).decode(bytes), note: undefined }
  } catch {
    const text = new TextDecoder('windows-1252').decode(bytes)
    return { text, note: 'The file is not UTF-8; it was read as Windows-1252. Look at letters with accents.' }
  }
}

const SEPARATORS = ['\t', ';', ','] as const
type Separator = (typeof SEPARATORS)[number]
const separatorNames: Readonly<Record<Separator, string>> = { '\t': 'tabs', ';': 'semicolons', ',': 'commas' }

/** As many devices as one list of changes takes, and the head. */
const MOST_TABLE_ROWS = 5_001
/** As many points: each is one change, where a device is up to three. */
export const MOST_POINT_ROWS = 10_001
/** A file of so many rows is far smaller. */
export const TABLE_FILE_LIMIT = 10 * 1024 * 1024

const cellsWith = (text: string, delimiter: Separator, most = 0) =>
  parse<string[]>(text, { delimiter, skipEmptyLines: 'greedy', preview: most })

/**
 * Tabs from a spreadsheet, semicolons or commas from a file: what divides the first line into most cells. Quotes around
 * cells are the library's business. Reading stops after `most` rows. A line that is divided in another way into as many cells is read so, and that is said.
 */
export function rowsOf(text: string, most = MOST_TABLE_ROWS): TableReading {
  const plain = text.replace(/^\ufeff/, '')
  if (plain.trim() === '') return { rows: [], notes: [], rest: '' }
  const head = plain.slice(0, plain.search(/\r?\n|$/))
  const widths = SEPARATORS.map((each) => cellsWith(head, each).data[0]?.length ?? 0)
  const separator = SEPARATORS[widths.indexOf(Math.max(...widths))] ?? '\t'
  const { data, errors, meta } = cellsWith(plain, separator, most)
  const rest = meta.truncated ? plain.slice(meta.cursor).trimStart() : ''
  const notes = errors.slice(0, 20).map((each) => `Row ${(each.row ?? 0) + 1}: ${each.message}.`)
  const width = data[0]?.length ?? 0
  const rows = data.map((cells, k) => {
    const [only = ''] = cells
    if (cells.length !== 1 || width < 2) return cells.map(plainCell)
    const other = SEPARATORS.filter((each) => each !== separator && only.includes(each))
      .map((each) => ({ each, cells: cellsWith(only, each).data[0] ?? [] }))
      .find((reading) => reading.cells.length === width)
    if (!other) return cells.map(plainCell)
    notes.push(
      `Row ${k + 1} is separated by ${separatorNames[other.each]}, the first by ${separatorNames[separator]}. It was read so.`,
    )
    return other.cells.map(plainCell)
  })
  // Reading stops there: a list of hundreds of thousands would hold up the page and could not be added at once.
  if (rest !== '') notes.unshift(`The first ${data.length} rows are read; the rest waits and is taken in a second go.`)
  return { rows, notes, rest }
}

/** A cell that was made harmless for spreadsheets when it was written, as it was before. */
const plainCell = (cell: string) => cell.replace(/^'(?=[=+\-@])/, '')

/** Rows as text with tabs, to be looked at and put right by hand. */
export const textOf = (rows: readonly (readonly string[])[]): string =>
  rows.map((cells) => cells.map((cell) => cell.replace(/[\t\r\n]+/g, ' ')).join('\t')).join('\n')

/** The same, with what was not read behind it. */
export const textWithRest = (rows: readonly (readonly string[])[], rest: string): string =>
  rest === '' ? textOf(rows) : `${textOf(rows)}\n${rest}`

/** A CSV file, or an XLSX workbook of which the sheet with most rows is taken. */
export async function readTableFile(file: File, most = MOST_TABLE_ROWS): Promise<TableReading> {
  if (file.size > TABLE_FILE_LIMIT) {
    const size = `${(file.size / 1024 / 1024).toFixed(1)} MB`
    throw new ProblemError(413, [
      {
        what: `The file is too large: ${size}.`,
        where: '',
        expected: `at most 10 MB and ${most - 1} rows`,
        found: size,
      },
    ])
  }
  const bytes = new Uint8Array(await file.arrayBuffer())
  const isWorkbook = bytes[0] === 0x50 && bytes[1] === 0x4b
  if (!isWorkbook && !/\.xlsx?$/i.test(file.name)) {
    const { text, note } = decodeText(bytes)
    const reading = rowsOf(text, most)
    return { ...reading, notes: note ? [note, ...reading.notes] : reading.notes }
  }
  const { sheets } = await call(api.readWorkbook, {}, bytes)
  const [sheet] = [...sheets].sort((a, b) => b.rows.length - a.rows.length)
  if (!sheet) return { rows: [], notes: ['The workbook has no sheet with anything in it.'], rest: '' }
  const others = sheets.length > 1 ? [`Sheet "${sheet.name}" of ${sheets.length} was read.`] : []
  return {
    rows: sheet.rows.slice(0, most),
    rest: textOf(sheet.rows.slice(most)),
    notes: [...others, ...sheet.notes.map(({ row, column, text }) => `Row ${row}, column ${letter(column)}: ${text}.`)],
  }
}

/** @example letter(28) // 'AB' */
export function letter(column: number): string {
  const rest = (column - 1) % 26
  const before = Math.floor((column - 1) / 26)
  return (before > 0 ? letter(before) : '') + String.fromCharCode(65 + rest)
}

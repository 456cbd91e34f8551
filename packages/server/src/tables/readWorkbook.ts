import type { SheetReading, WorkbookReading } from '@calm/contract'
import type { Cell, CellErrorValue, CellFormulaValue, CellValue, Worksheet } from 'exceljs'
import { unzipSync } from 'fflate'
import { refusedBecause } from '../store'
import { newWorkbook } from './newWorkbook'

/** As sent, and unpacked: a small file can hold a very large one. */
export const WORKBOOK_LIMIT = 10 * 1024 * 1024
const UNPACKED_LIMIT = 100 * 1024 * 1024
const MOST_ROWS = 20_000
const MOST_COLUMNS = 200
const MOST_NOTES = 200

/** Reads the sheets of an XLSX workbook as texts. What is not a plain text or number is told cell by cell. */
export async function readWorkbook(bytes: Uint8Array, unpackedLimit = UNPACKED_LIMIT): Promise<WorkbookReading> {
  requireModestSize(bytes, unpackedLimit)
  const workbook = await newWorkbook()
  try {
    await workbook.xlsx.load(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer)
  } catch (reason) {
    throw refusedBecause(
      `The workbook cannot be read: ${reason instanceof Error ? reason.message : String(reason)}`,
      'an XLSX file as spreadsheets save it',
      `${bytes.length} bytes`,
    )
  }
  if (workbook.worksheets.length === 0)
    throw refusedBecause('This is not an XLSX workbook.', 'an XLSX file with a sheet', 'a zip file without sheets')
  return { sheets: workbook.worksheets.map(readSheet).filter((sheet) => sheet.rows.length > 0) }
}

function requireModestSize(bytes: Uint8Array, limit: number): void {
  let unpacked = 0
  try {
    unzipSync(bytes, {
      filter: (file) => {
        unpacked += file.originalSize
        return false
      },
    })
  } catch {
    const head = Buffer.from(bytes.slice(0, 4)).toString('hex')
    throw refusedBecause(
      'This is not an XLSX workbook.',
      'an XLSX file (ECMA-376), which is a zip file',
      `a file that begins with ${head || 'nothing'}`,
    )
  }
  if (unpacked > limit) {
    const size = `${Math.round(unpacked / 1024 / 1024)} MB`
    throw refusedBecause(
      'The workbook is too large when unpacked.',
      `at most ${Math.round(limit / 1024 / 1024)} MB`,
      size,
    )
  }
}

function readSheet(sheet: Worksheet): SheetReading {
  const rows: string[][] = []
  const notes: { row: number; column: number; text: string }[] = []
  const rowCount = Math.min(sheet.actualRowCount === 0 ? 0 : sheet.rowCount, MOST_ROWS)
  const columnCount = Math.min(sheet.columnCount, MOST_COLUMNS)
  if (sheet.rowCount > MOST_ROWS)
    notes.push({ row: MOST_ROWS + 1, column: 1, text: `${sheet.rowCount} rows; the first ${MOST_ROWS} are read.` })
  for (let r = 1; r <= rowCount; r += 1) {
    const row = sheet.getRow(r)
    rows.push(
      Array.from({ length: columnCount }, (_, c) => {
        const { text, note } = readCell(row.getCell(c + 1))
        if (note !== undefined && notes.length < MOST_NOTES) notes.push({ row: r, column: c + 1, text: note })
        return text
      }),
    )
  }
  return { name: sheet.name, rows, notes }
}

interface CellReading {
  readonly text: string
  readonly note?: string
}

function readCell(cell: Cell): CellReading {
  if (cell.isMerged && cell.master.address !== cell.address)
    return { text: '', note: `merged with ${cell.master.address}; what stands there counts for its first row only` }
  return readValue(cell.value)
}

function readValue(value: CellValue): CellReading {
  if (value === null || value === undefined) return { text: '' }
  if (value instanceof Date) {
    const day = value.toISOString().slice(0, 10)
    return { text: day, note: `a date, ${day}; a spreadsheet may have made it of something like 10.20 or 1-2` }
  }
  if (typeof value !== 'object') return { text: String(value) }
  if ('formula' in value || 'sharedFormula' in value) {
    const result = readValue((value as CellFormulaValue).result as CellValue)
    return {
      text: result.text,
      note: `a formula; its last result${result.text === '' ? ' is blank' : ` ${result.text}`} is taken`,
    }
  }
  if ('richText' in value) return { text: value.richText.map((part) => part.text).join('') }
  if ('hyperlink' in value) return { text: value.text }
  return { text: '', note: `an error, ${(value as CellErrorValue).error}` }
}

import type { SheetReading, WorkbookReading } from '@calm/contract'
import type { Cell, CellErrorValue, CellFormulaValue, CellValue, Worksheet } from 'exceljs'
import { refusedBecause } from '../store'
import { newWorkbook } from './newWorkbook'
import { safeWorkbook } from './safeWorkbook'

/** As sent, and unpacked: a small file can hold a very large one. */
export const WORKBOOK_LIMIT = 10 * 1024 * 1024
const UNPACKED_LIMIT = 100 * 1024 * 1024
/** A list of changes takes 10 000 points; nobody needs more rows at once. */
const MOST_ROWS = 10_001
const MOST_COLUMNS = 200
const MOST_NOTES = 200

/**
 * Reads the sheets of an XLSX workbook as texts. What is not a plain text or number is told cell by cell. Only cells
 * that exist are walked, so one far cell costs no more than a near one.
 */
export async function readWorkbook(bytes: Uint8Array, unpackedLimit = UNPACKED_LIMIT): Promise<WorkbookReading> {
  const safe = safeWorkbook(bytes, unpackedLimit)
  const workbook = await newWorkbook()
  try {
    await workbook.xlsx.load(safe.buffer.slice(safe.byteOffset, safe.byteOffset + safe.byteLength) as ArrayBuffer)
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

function readSheet(sheet: Worksheet): SheetReading {
  const rows: string[][] = []
  const notes: { row: number; column: number; text: string }[] = []
  let left = 0
  let beyond = 0
  sheet.eachRow((row, r) => {
    if (rows.length >= MOST_ROWS) {
      left += 1
      return
    }
    const cells: string[] = []
    row.eachCell((cell, c) => {
      if (c > MOST_COLUMNS) {
        beyond += 1
        return
      }
      const { text, note } = readCell(cell)
      while (cells.length < c - 1) cells.push('')
      cells[c - 1] = text
      if (note !== undefined && notes.length < MOST_NOTES) notes.push({ row: r, column: c, text: note })
    })
    rows.push(cells)
  })
  if (left > 0)
    notes.push({ row: MOST_ROWS + 1, column: 1, text: `${left} more rows; ${MOST_ROWS} are read at a time` })
  if (beyond > 0)
    notes.push({ row: 1, column: MOST_COLUMNS + 1, text: `${beyond} cells beyond column ${MOST_COLUMNS} are not read` })
  const width = Math.max(0, ...rows.map((cells) => cells.length))
  return { name: sheet.name, rows: rows.map((cells) => padded(cells, width)), notes }
}

const padded = (cells: readonly string[], width: number): readonly string[] =>
  Array.from({ length: width }, (_, c) => cells[c] ?? '')

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

import type { Table } from './deviceTables'
import { newWorkbook } from './newWorkbook'

const NARROWEST = 8
const WIDEST = 40

/** Tables as an XLSX workbook, one sheet each. Every cell is a text, so that no address becomes a number or a date. */
export async function workbookOf(tables: readonly Table[]): Promise<Buffer> {
  const workbook = await newWorkbook()
  for (const { name, head, rows } of tables) {
    const sheet = workbook.addWorksheet(name, { views: [{ state: 'frozen', ySplit: 1, xSplit: 1 }] })
    sheet.addRow([...head]).font = { bold: true }
    for (const row of rows) sheet.addRow([...row])
    head.forEach((title, k) => {
      const longest = rows.reduce((most, row) => Math.max(most, row[k]?.length ?? 0), title.length)
      const column = sheet.getColumn(k + 1)
      column.width = Math.min(WIDEST, Math.max(NARROWEST, longest + 2))
      column.numFmt = '@'
    })
  }
  return Buffer.from(await workbook.xlsx.writeBuffer())
}

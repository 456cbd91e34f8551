import type { Workbook } from 'exceljs'

/** The library is large and seldom needed; it is loaded when the first workbook is. */
export async function newWorkbook(): Promise<Workbook> {
  const { default: Excel } = await import('exceljs')
  return new Excel.Workbook()
}

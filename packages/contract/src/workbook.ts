/** A workbook as the server read it: its sheets as texts, and what was not a plain text or number. */
export interface WorkbookReading {
  readonly sheets: readonly SheetReading[]
}

export interface SheetReading {
  readonly name: string
  readonly rows: readonly (readonly string[])[]
  /** Rows and columns are counted from 1. */
  readonly notes: readonly { readonly row: number; readonly column: number; readonly text: string }[]
}

/**
 * One CSV cell. A cell that a spreadsheet would run as a formula gets an apostrophe before it.
 * @source RFC 4180 2 for quoting; the leading characters are common practice against formula injection, no source
 */
export function csvCell(value: unknown): string {
  const text = value === null || value === undefined ? '' : String(value)
  const first = /^[=+\-@\t\r]/.test(text) && !/^-?\d+(\.\d+)?$/.test(text) ? `'${text}` : text
  // Opened with another separator, a cell begins after it, whatever the quotes: what would run there is no formula either.
  const safe = first.replace(/([;\t\n]\s*)([=+@]|-(?!\d))/g, "$1'$2")
  // Some spreadsheets part cells at semicolons or tabs: such a cell is quoted too.
  return /[",;\t\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe
}

/** Rows as CSV with CRLF, and a byte order mark so that spreadsheets read UTF-8. */
export function csvText(rows: readonly (readonly unknown[])[]): string {
  return `\ufeff${rows.map((row) => row.map(csvCell).join(',')).join('\r\n')}\r\n`
}

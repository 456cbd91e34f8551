import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import { refusedBecause } from '../store'

/** Parts of a workbook that are read; pictures and the like are left where they are. */
const READ_PARTS = /^(\[Content_Types\]\.xml|_rels\/.+|xl\/.*\.(xml|rels))$/
const MOST_PARTS = 2_000
/** A merged block larger than this is no table. */
const MOST_MERGED_CELLS = 20_000

/**
 * The parts of a workbook that matter, packed again as they really are. Sizes are looked at before anything is
 * unpacked, and nothing is unpacked past the size it states, so a file that lies about its size costs no more than it
 * says. Rules for cells that spreadsheets spread over whole columns are taken out: nobody asks for them here.
 */
export function safeWorkbook(bytes: Uint8Array, unpackedLimit: number): Uint8Array {
  requireModestSize(bytes, unpackedLimit)
  const parts = unzipSync(bytes, { filter: ({ name }) => READ_PARTS.test(name) })
  const plain = Object.entries(parts).map(([name, part]) => {
    const text = strFromU8(part)
    requireWhole(name, text)
    if (!/^xl\/worksheets\/.*\.xml$/.test(name)) return [name, part] as const
    requireModestMerges(text)
    return [name, strToU8(withoutRules(text))] as const
  })
  return zipSync(Object.fromEntries(plain), { level: 0 })
}

/** Every part is one XML element; a part that was longer than it said ends in the middle of it. */
function requireWhole(name: string, xml: string): void {
  const root = /<([A-Za-z_][\w:.-]*)/.exec(xml)?.[1] ?? ''
  const whole = xml.trimEnd()
  const last = whole.slice(whole.lastIndexOf('<'))
  if (last === `</${root}>` || (last.startsWith(`<${root}`) && last.endsWith('/>'))) return
  throw refusedBecause(
    'The workbook is cut off or says a wrong size.',
    `</${root}> at the end of ${name}`,
    last.slice(0, 60),
  )
}

const withoutRules = (xml: string): string =>
  xml
    .replace(/<dataValidations\b[\s\S]*?<\/dataValidations>/g, '')
    .replace(/<conditionalFormatting\b[\s\S]*?<\/conditionalFormatting>/g, '')
    .replace(/<extLst\b[\s\S]*?<\/extLst>/g, '')

function requireModestMerges(xml: string): void {
  let cells = 0
  for (const [, left = '', top = '', right = '', bottom = ''] of xml.matchAll(
    /<mergeCell\b[^>]*\bref="\$?([A-Z]{1,3})\$?(\d{1,7}):\$?([A-Z]{1,3})\$?(\d{1,7})"/g,
  )) {
    cells += (Number(bottom) - Number(top) + 1) * (columnNumber(right) - columnNumber(left) + 1)
    if (cells > MOST_MERGED_CELLS)
      throw refusedBecause(
        'The workbook merges too many cells to be a table.',
        `at most ${MOST_MERGED_CELLS} merged cells`,
        `${left}${top}:${right}${bottom}`,
      )
  }
}

/** @example columnNumber('AB') // 28 */
const columnNumber = (letters: string): number =>
  [...letters].reduce((sum, letter) => sum * 26 + letter.charCodeAt(0) - 64, 0)

function requireModestSize(bytes: Uint8Array, limit: number): void {
  let unpacked = 0
  let parts = 0
  try {
    unzipSync(bytes, {
      filter: (file) => {
        unpacked += file.originalSize
        parts += 1
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
  if (parts > MOST_PARTS)
    throw refusedBecause('The workbook has too many parts.', `at most ${MOST_PARTS}`, `${parts} parts`)
}

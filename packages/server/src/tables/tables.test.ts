import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { matchColumns, readDeviceRows, tableChanges } from '@calm/core/lineUp'
import { buildSync } from 'esbuild'
import { strToU8, unzipSync, zipSync } from 'fflate'
import { heronMill } from '../demo'
import { csvText } from '@calm/core/table'
import { Refused } from '../store'
import { deviceTable } from './deviceTables'
import { readWorkbookApart } from './readApart'
import { readWorkbook } from './readWorkbook'
import { workbookOf } from './writeWorkbook'

const folder = mkdtempSync(join(tmpdir(), 'calm-tables-'))
const job = heronMill(1_764_000_000_000)
const table = deviceTable(job)
const all = [table.head, ...table.rows]

/** Python's standard library as an independent reader and writer. */
function python(program: string, ...args: readonly string[]): string {
  const { status, stdout, stderr } = spawnSync('python3', ['-c', program, ...args], { encoding: 'utf8' })
  if (status !== 0) throw new Error(`python3: ${stderr}`)
  return stdout
}

/** Reads the first sheet of an XLSX file with nothing but zip and XML. Source: ECMA-376, part 1, 18.3 and 18.4.8 */
const READ_XLSX = `
import json, sys, zipfile, re
import xml.etree.ElementTree as E
N = '{http://schemas.openxmlformats.org/spreadsheetml/2006/main}'
z = zipfile.ZipFile(sys.argv[1])
strings = []
if 'xl/sharedStrings.xml' in z.namelist():
    for si in E.fromstring(z.read('xl/sharedStrings.xml')):
        strings.append(''.join(t.text or '' for t in si.iter(N + 't')))
rows = []
for row in E.fromstring(z.read('xl/worksheets/sheet1.xml')).iter(N + 'row'):
    cells = {}
    for c in row.iter(N + 'c'):
        letters = re.match('[A-Z]+', c.get('r')).group(0)
        at = 0
        for l in letters: at = at * 26 + ord(l) - 64
        v = c.find(N + 'v')
        inline = ''.join(t.text or '' for t in c.iter(N + 't'))
        cells[at - 1] = inline if c.get('t') == 'inlineStr' else '' if v is None else strings[int(v.text)] if c.get('t') == 's' else v.text
    rows.append([cells.get(k, '') for k in range(max(cells, default=-1) + 1)])
print(json.dumps(rows))
`

const padded = (rows: readonly (readonly string[])[]) =>
  rows.map((row) => Array.from({ length: table.head.length }, (_, k) => row[k] ?? ''))
/** What a table that was read changes of the job. */
const changesOf = (rows: readonly (readonly string[])[]) => {
  const { match, hasHead } = matchColumns(rows)
  const readings = readDeviceRows(rows, match, hasHead, job, true)
  expect(readings.flatMap((row) => row.problems)).toEqual([])
  return tableChanges(readings, job, null, () => 'new')
}

describe('devices written to a file', () => {
  test('XLSX: an independent reader finds every cell as it was, and taken back in it changes nothing', async () => {
    const file = join(folder, 'devices.xlsx')
    writeFileSync(file, await workbookOf([table]))
    const theirs = padded(JSON.parse(python(READ_XLSX, file)))
    expect(theirs).toEqual(all)
    const { sheets } = await readWorkbook(readFileSync(file))
    expect(sheets).toMatchObject([{ name: 'Devices', notes: [] }])
    expect(padded(sheets[0]?.rows ?? [])).toEqual(all)
    expect(changesOf(sheets[0]?.rows ?? [])).toEqual([])
  })

  // Source: the Python Standard Library, module csv, which reads RFC 4180.
  test('CSV: an independent reader finds every cell as it was', () => {
    const odd = [...all, table.head.map((_, k) => ['a,b', 'say "x"', 'two\nlines', 'ä;€', ' space '][k % 5] ?? '')]
    const file = join(folder, 'devices.csv')
    writeFileSync(file, csvText(odd))
    const theirs = JSON.parse(
      python(
        `import csv, json, sys\nprint(json.dumps(list(csv.reader(open(sys.argv[1], encoding='utf-8-sig', newline='')))))`,
        file,
      ),
    )
    expect(theirs).toEqual(odd)
    expect(changesOf(theirs.slice(0, -1))).toEqual([])
  })
})

/** A workbook written by hand: what spreadsheets put where an address should be. */
function oddWorkbook(): Uint8Array {
  const head = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>'
  const main = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main'
  const office = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships'
  const text = (at: string, value: string) => `<c r="${at}" t="inlineStr"><is><t>${value}</t></is></c>`
  const sheet = `${head}<worksheet xmlns="${main}"><sheetData>
    <row r="1">${text('A1', 'Tag')}${text('B1', 'IP address')}${text('C1', 'Unit')}</row>
    <row r="2">${text('A2', 'X-1')}<c r="B2" t="str"><f>"10.20.40."&amp;50</f><v>10.20.40.50</v></c><c r="C2"><v>7</v></c></row>
    <row r="3">${text('A3', 'X-2')}<c r="B3" s="1"><v>44124</v></c><c r="C3"><v>1</v></c></row>
    <row r="4">${text('A4', 'X-3')}${text('B4', '10.20.40.52')}<c r="C4" t="e"><v>#REF!</v></c></row>
    <row r="5">${text('A5', 'X-4')}<c r="B5"/></row>
    </sheetData><mergeCells count="1"><mergeCell ref="B4:B5"/></mergeCells></worksheet>`
  const parts: Readonly<Record<string, string>> = {
    '[Content_Types].xml': `${head}<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/><Override PartName="/xl/styles.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.styles+xml"/></Types>`,
    '_rels/.rels': `${head}<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="${office}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
    'xl/workbook.xml': `${head}<workbook xmlns="${main}" xmlns:r="${office}"><sheets><sheet name="List" sheetId="1" r:id="rId1"/></sheets></workbook>`,
    'xl/_rels/workbook.xml.rels': `${head}<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="${office}/worksheet" Target="worksheets/sheet1.xml"/><Relationship Id="rId2" Type="${office}/styles" Target="styles.xml"/></Relationships>`,
    // Number format 14 is a date.
    'xl/styles.xml': `${head}<styleSheet xmlns="${main}"><fonts count="1"><font/></fonts><fills count="1"><fill/></fills><borders count="1"><border/></borders><cellStyleXfs count="1"><xf/></cellStyleXfs><cellXfs count="2"><xf numFmtId="0"/><xf numFmtId="14" applyNumberFormat="1"/></cellXfs></styleSheet>`,
    'xl/worksheets/sheet1.xml': sheet,
  }
  return zipSync(Object.fromEntries(Object.entries(parts).map(([name, content]) => [name, strToU8(content)])))
}

test('a formula, a date, a merged cell and an error where an address should be are told, cell by cell', async () => {
  const { sheets } = await readWorkbook(oddWorkbook())
  expect(sheets[0]?.rows).toEqual([
    ['Tag', 'IP address', 'Unit'],
    ['X-1', '10.20.40.50', '7'],
    ['X-2', '2020-10-20', '1'],
    ['X-3', '10.20.40.52', ''],
    ['X-4', '', ''],
  ])
  expect(sheets[0]?.notes.map((note) => `${note.row},${note.column} ${note.text.split(/[;,]/)[0]}`)).toEqual([
    '2,2 a formula',
    '3,2 a date',
    '4,3 an error',
    '5,2 merged with B4',
  ])
})

test.each<[string, () => Uint8Array, RegExp]>([
  ['nothing', () => new Uint8Array(), /not an XLSX/],
  ['a text', () => strToU8('Tag;IP\nX;1'), /not an XLSX/],
  ['a zip of something else', () => zipSync({ 'a.txt': strToU8('x') }), /cannot be read|not an XLSX/],
  ['half a workbook', () => oddWorkbook().slice(0, 700), /not an XLSX|cannot be read/],
])('%s is refused as such', async (_what, bytes, reason) => {
  const outcome = await readWorkbook(bytes()).catch((caught: unknown) => caught)
  expect(outcome).toBeInstanceOf(Refused)
  expect(String(outcome)).toMatch(reason)
})

test('a small file that unpacks to a very large one is refused before it is unpacked', async () => {
  const bytes = zipSync({ 'xl/a.xml': new Uint8Array(3 * 1024 * 1024) })
  expect(bytes.length).toBeLessThan(20_000)
  await expect(readWorkbook(bytes, 2 * 1024 * 1024)).rejects.toThrow(/too large when unpacked/)
})

/** A workbook of one sheet, as spreadsheets would save it. */
function workbookWith(rows: string, after = ''): Uint8Array {
  const parts = unzipSync(oddWorkbook())
  const main = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main'
  const sheet = `<worksheet xmlns="${main}"><sheetData>${rows}</sheetData>${after}</worksheet>`
  return zipSync({ ...parts, 'xl/worksheets/sheet1.xml': strToU8(sheet) })
}
const cell = (at: string, value: string) => `<c r="${at}" t="inlineStr"><is><t>${value}</t></is></c>`

/** How long work holds up everybody else, in milliseconds. */
async function heldUpBy(work: () => Promise<unknown>): Promise<number> {
  let longest = 0
  let before = performance.now()
  const timer = setInterval(() => {
    longest = Math.max(longest, performance.now() - before)
    before = performance.now()
  }, 5)
  await work()
  clearInterval(timer)
  return Math.max(longest, performance.now() - before)
}

describe('a small workbook that would cost much', () => {
  test('one far cell is read where it is, and only cells that exist are walked', async () => {
    const bytes = workbookWith(
      `<row r="1">${cell('A1', 'Tag')}</row><row r="1048576">${cell('GR1048576', 'far')}</row>`,
    )
    expect(bytes.length).toBeLessThan(4_000)
    const before = process.memoryUsage().heapUsed
    const { sheets } = await readWorkbook(bytes)
    expect(sheets[0]?.rows).toHaveLength(2)
    expect(sheets[0]?.rows[1]?.at(-1)).toBe('far')
    expect(process.memoryUsage().heapUsed - before).toBeLessThan(150 * 1024 * 1024)
  })

  test('a cell beyond the last column that is read is told', async () => {
    const { sheets } = await readWorkbook(workbookWith(`<row r="1">${cell('A1', 'Tag')}${cell('XFD1', 'far')}</row>`))
    expect(sheets[0]).toMatchObject({ rows: [['Tag']], notes: [{ text: expect.stringMatching(/beyond column 200/) }] })
  })

  test('cells merged over the whole sheet, and rules over whole columns', async () => {
    const merged = workbookWith(
      `<row r="1">${cell('A1', 'Tag')}</row>`,
      '<mergeCells count="1"><mergeCell ref="A1:XFD1048576"/></mergeCells>',
    )
    await expect(readWorkbook(merged)).rejects.toThrow(/merges too many cells/)
    const ruled = workbookWith(
      `<row r="1">${cell('A1', 'Tag')}</row>`,
      '<dataValidations count="1"><dataValidation type="whole" sqref="A1:XFD1048576"><formula1>1</formula1></dataValidation></dataValidations>',
    )
    expect((await readWorkbook(ruled)).sheets[0]?.rows).toEqual([['Tag']])
  })

  test('a zip that lies about its size is unpacked no further than it says', async () => {
    const bytes = workbookWith(`<row r="1">${cell('A1', 'x'.repeat(2_000_000))}</row>`)
    // The size stands in the local header and in the central directory; both say 1 000 bytes.
    const lying = bytes.slice()
    const view = new DataView(lying.buffer)
    let told = 0
    for (let at = 0; at + 46 < lying.length; at += 1) {
      const mark = view.getUint32(at, true)
      const place = mark === 0x02014b50 ? at + 24 : mark === 0x04034b50 ? at + 22 : -1
      if (place < 0 || view.getUint32(place, true) < 1_000_000) continue
      view.setUint32(place, 1_000, true)
      told += 1
    }
    expect(told).toBeGreaterThan(0)
    const before = process.memoryUsage().rss
    await expect(readWorkbook(lying)).rejects.toThrow(Refused)
    expect(process.memoryUsage().rss - before).toBeLessThan(100 * 1024 * 1024)
  })

  test('more rows than can be added at once: the first are read, the rest is counted', async () => {
    const rows = Array.from({ length: 12_000 }, (_, k) => `<row r="${k + 1}">${cell(`A${k + 1}`, `T-${k}`)}</row>`)
    const { sheets } = await readWorkbook(workbookWith(rows.join('')))
    expect(sheets[0]?.rows).toHaveLength(10_001)
    expect(sheets[0]?.notes.at(-1)?.text).toMatch(/^1999 more rows/)
  })

  test('it is read beside everything else: nobody waits for it', async () => {
    const rows = Array.from({ length: 60_000 }, (_, k) => `<row r="${k + 1}">${cell(`A${k + 1}`, `T-${k}`)}</row>`)
    const bytes = workbookWith(rows.join(''))
    const worker = join(__dirname, '../../../../.cache/test/workbook.worker.cjs')
    buildSync({
      entryPoints: [join(__dirname, 'workbook.worker.ts')],
      outfile: worker,
      bundle: true,
      platform: 'node',
      format: 'cjs',
      external: ['libsql', 'serialport', 'typeorm', 'exceljs'],
      logLevel: 'silent',
    })
    let reading: Awaited<ReturnType<typeof readWorkbookApart>> | undefined
    const held = await heldUpBy(async () => {
      reading = await readWorkbookApart(bytes, worker)
    })
    expect(reading?.sheets[0]?.rows).toHaveLength(10_001)
    expect(held).toBeLessThan(1_500)
    await expect(readWorkbookApart(strToU8('PK'), worker)).rejects.toThrow(/not an XLSX/)
  })
})

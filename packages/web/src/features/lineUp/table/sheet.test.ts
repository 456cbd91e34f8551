import { sampleDevice, sampleJob } from '@calm/core/job/fixtures'
import { applyChanges } from '@calm/core/changes'
import { blockEdit, cellsAsText, fillDown } from './gridEdits'
import { linesOf } from './lines'
import { decodeText, letter, rowsOf, textOf, textWithRest } from '../../../pasted'
import { compareCells, shownLines, sortingOf } from './shownLines'

const job = sampleJob({
  devices: [
    sampleDevice('EM-2', '10.20.40.100', { position: 1, what: 'Meter, hall', place: 'panel 1' }),
    sampleDevice('EM-10', '10.20.40.9', { position: 2, what: 'Meter, roof' }),
    sampleDevice('PD-1', null, { position: 3, kind: 'drive', unitId: null }),
  ],
})
const devices = [...job.devices]
let count = 0
const newId = () => `n${(count += 1)}`

describe('many cells at once', () => {
  test('a block of copied cells goes into rows and columns from one cell on', () => {
    const cells = [
      ['Old hall', 'panel 2'],
      ['Old roof', 'panel 3'],
    ]
    const { changes, problems } = blockEdit(job, { devices, columns: ['what', 'place'], cells }, newId)
    expect(problems).toEqual([])
    expect(applyChanges(job, changes).devices.map((each) => [each.what, each.place])).toEqual([
      ['Old hall', 'panel 2'],
      ['Old roof', 'panel 3'],
      ['', ''],
    ])
  })

  test('one cell that cannot be read keeps all as they are, and is named', () => {
    const cells = [['10.20.40.5'], ['10.20.40.256']]
    const edit = blockEdit(job, { devices, columns: ['address'], cells }, newId)
    expect(edit.changes).toEqual([])
    expect(edit.problems).toHaveLength(1)
    expect(edit.problems[0]).toMatch(/^EM-10, Planned address: /)
  })

  test('more rows or columns than are left are refused, not cut off', () => {
    const cells = [['a'], ['b'], ['c'], ['d']]
    expect(blockEdit(job, { devices, columns: ['what'], cells }, newId).problems).toEqual([
      '4 rows were copied, and 3 are left from here on. Nothing is changed.',
    ])
    expect(blockEdit(job, { devices, columns: ['what'], cells: [['a', 'b']] }, newId).changes).toEqual([])
  })

  test('a tag that would stand twice keeps all as they are', () => {
    const edit = blockEdit(job, { devices, columns: ['tag'], cells: [['X'], ['X']] }, newId)
    expect(edit).toMatchObject({ changes: [], problems: ['X would stand twice: at EM-2 and EM-10.'] })
  })

  test('down from one cell: a text stays, an address and a unit id count up', () => {
    expect(fillDown('place', 'panel 2', 3)).toEqual(['panel 2', 'panel 2', 'panel 2'])
    expect(fillDown('address', '10.20.40.254', 3)).toEqual(['10.20.40.254', '10.20.40.255', '10.20.41.0'])
    expect(fillDown('unitId', '9', 2)).toEqual(['9', '10'])
    expect(fillDown('unitId', '', 2)).toEqual(['', ''])
  })

  test('copied as a spreadsheet takes them', () => {
    expect(cellsAsText(job, devices.slice(0, 2), ['tag', 'address'])).toBe('EM-2\t10.20.40.100\nEM-10\t10.20.40.9')
  })
})

describe('which lines are shown', () => {
  const lines = linesOf(job, [])
  const tags = (showing: Partial<Parameters<typeof shownLines>[2]>) =>
    shownLines(lines, job, { state: undefined, text: '', sorting: undefined, ...showing }).map(
      (line) => line.device.tag,
    )

  test('each word must stand somewhere in the row, in any column', () => {
    expect(tags({ text: 'METER roof' })).toEqual(['EM-10'])
    expect(tags({ text: 'panel' })).toEqual(['EM-2'])
    expect(tags({ text: 'keypad drive' })).toEqual(['PD-1'])
    expect(tags({ text: 'nothing like it' })).toEqual([])
  })

  test('sorted by a column: addresses by their number, tags by the numbers in them, blanks last', () => {
    expect(tags({ sorting: sortingOf('address') })).toEqual(['EM-10', 'EM-2', 'PD-1'])
    expect(tags({ sorting: sortingOf('tag') })).toEqual(['EM-2', 'EM-10', 'PD-1'])
    expect(tags({ sorting: sortingOf('tag.down') })).toEqual(['PD-1', 'EM-10', 'EM-2'])
    expect(tags({ sorting: sortingOf('address.down') })).toEqual(['EM-2', 'EM-10', 'PD-1'])
    expect(sortingOf('colour')).toBeUndefined()
    expect(compareCells('', 'a')).toBe(1)
  })
})

describe('a table from a file', () => {
  const bytes = (text: string, mark: readonly number[] = []) => new Uint8Array([...mark, ...Buffer.from(text)])

  test.each([
    ['UTF-8', bytes('Tag;Maß'), false],
    ['UTF-8 with a mark', bytes('Tag;Maß', [0xef, 0xbb, 0xbf]), false],
    ['UTF-16 with a mark', new Uint8Array([0xff, 0xfe, ...Buffer.from('Tag;Maß', 'utf16le')]), false],
    ['Windows-1252', new Uint8Array(Buffer.from('Tag;Maß', 'latin1')), true],
  ])('in %s', (_name, content, noted) => {
    const { text, note } = decodeText(content)
    expect(text).toBe('Tag;Maß')
    expect(note !== undefined).toBe(noted)
  })

  test('commas, semicolons and tabs are told apart; a decimal comma stays in its cell', () => {
    expect(rowsOf('Tag;IP;s\nA;10.0.0.1;2,5').rows).toEqual([
      ['Tag', 'IP', 's'],
      ['A', '10.0.0.1', '2,5'],
    ])
    expect(rowsOf('Tag,What\nA,"pump, duty"').rows[1]).toEqual(['A', 'pump, duty'])
    expect(rowsOf('\ufeffTag\tIP\nA\t1').rows[0]).toEqual(['Tag', 'IP'])
  })

  test('a row that is separated in another way is read so where it fits, and that is said', () => {
    const { rows, notes } = rowsOf('Tag;IP;s\nA;10.0.0.1;2,5\nB,10.0.0.2,3\nC\nD,10.0.0.3')
    expect(rows.slice(2)).toEqual([['B', '10.0.0.2', '3'], ['C'], ['D,10.0.0.3']])
    expect(notes).toEqual(['Row 3 is separated by commas, the first by semicolons. It was read so.'])
  })

  test('a cell that was made harmless for spreadsheets is as it was', () =>
    expect(rowsOf("Tag\tNote\nA\t'=1+1").rows[1]).toEqual(['A', '=1+1']))

  test('more rows than can be taken at once: the rest is kept as it stands, and that is said', () => {
    const text = ['Tag\tWhat', 'A\tone', '"B"\t"two', 'lines"', 'C\tthree', '', 'D\tfour'].join('\n')
    const all = rowsOf(text)
    expect([all.rows.length, all.rest, all.notes]).toEqual([5, '', []])
    const some = rowsOf(text, 3)
    expect(some.rows.map(([tag]) => tag)).toEqual(['Tag', 'A', 'B'])
    expect(some.rest).toBe('C\tthree\n\nD\tfour')
    expect(some.notes).toEqual(['The first 3 rows are read; the rest waits and is taken in a second go.'])
    // Put back together nothing is missing.
    expect(rowsOf(textWithRest(some.rows, some.rest)).rows.map(([tag]) => tag)).toEqual(['Tag', 'A', 'B', 'C', 'D'])
    // Blank lines count where reading stops, and are no rows.
    expect(rowsOf(text, 5).rest).toBe('D\tfour')
    expect(rowsOf(text, 6).rest).toBe('')
  })

  test('is written back as text for the box', () => {
    expect(textOf([['a', 'b\tc']])).toBe('a\tb c')
    expect([letter(1), letter(26), letter(27), letter(52), letter(703)]).toEqual(['A', 'Z', 'AA', 'AZ', 'AAA'])
  })
})

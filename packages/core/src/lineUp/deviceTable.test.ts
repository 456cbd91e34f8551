import fc from 'fast-check'
import { matchColumns, readDeviceRows } from './deviceTable'

const rows = (text: string) => text.split('\n').map((line) => line.split('\t'))
const read = (text: string, taken: readonly string[] = []) => {
  const table = rows(text)
  const { match, hasHead } = matchColumns(table)
  return readDeviceRows(table, match, hasHead, new Set(taken))
}

describe('columns of a pasted table', () => {
  test('are found by their heads, whatever their case and marks', () => {
    expect(matchColumns(rows('IP address\tTAG\tDescription\tUnit-ID\tcolour'))).toEqual({
      match: ['address', 'tag', 'what', 'unitId', undefined],
      hasHead: true,
    })
  })
  test('without a head: the first is the tag, and addresses are known by their form', () => {
    expect(matchColumns(rows('EM-501\tmeter\t10.20.40.50\nEM-502\tmeter\t10.20.40.51'))).toEqual({
      match: ['tag', 'what', 'address'],
      hasHead: false,
    })
  })
  test('a column is taken once', () => {
    expect(matchColumns(rows('Tag\tName\tIP')).match).toEqual(['tag', undefined, 'address'])
  })
})

describe('rows of a pasted table', () => {
  test('become devices; empty lines are passed over', () => {
    const made = read('Tag\tKind\tIP\tUnit\nEM-501\tEnergy meter\t10.20.40.50\t1\n\t\t\t\nPD-101\tdrive\t\t')
    expect(made.map((row) => [row.line, row.device])).toEqual([
      [
        2,
        {
          tag: 'EM-501',
          what: '',
          kind: 'meter',
          address: '10.20.40.50',
          unitId: 1,
          asFound: '',
          behindTag: null,
          note: '',
        },
      ],
      [
        4,
        { tag: 'PD-101', what: '', kind: 'drive', address: null, unitId: null, asFound: '', behindTag: null, note: '' },
      ],
    ])
  })

  test('what cannot be read is told row by row, cell by cell, with the likely reading; the others stay', () => {
    const made = read(
      'Tag\tIP\tUnit\tKind\nA\t010.020.040.004\t1\t\nB\t10.20.40.256\t248\ttoaster\nC\t10.20.40.7\t\t',
      [],
    )
    expect(made.map((row) => row.device?.tag)).toEqual([undefined, undefined, 'C'])
    expect(made[0]?.problems).toMatchObject([{ column: 'address', refusal: { offers: [{ value: '10.20.40.4' }] } }])
    expect(made[1]?.problems.map((problem) => problem.column)).toEqual(['kind', 'address', 'unitId'])
  })

  test('a tag that the job has, one that stands twice, one that is blank', () => {
    const made = read('Tag\tIP\nA\t10.0.0.1\nB\t10.0.0.2\nB\t10.0.0.3\n\t10.0.0.4', ['A'])
    expect(made.map((row) => row.problems[0]?.refusal.code)).toEqual([
      'row.tag-taken',
      undefined,
      'row.tag-twice',
      'row.tag-blank',
    ])
  })

  test('behind a device of the job or of the same table, nothing else', () => {
    const made = read('Tag\tBehind\nFM-1\tGW\nFM-2\tPLC\nFM-3\tnobody\nGW\t', ['PLC'])
    expect(made.map((row) => (row.device ? row.device.behindTag : row.problems[0]?.refusal.code))).toEqual([
      'GW',
      'PLC',
      'row.behind',
      null,
    ])
    expect(made[0]?.device?.kind).toBe('field-device')
  })

  test('any table is read without breaking, and no row is lost', () => {
    const cell = fc.oneof(fc.string(), fc.constantFrom('', 'EM-1', '10.0.0.1', 'Tag', 'IP', '248'))
    fc.assert(
      fc.property(fc.array(fc.array(cell, { maxLength: 8 }), { maxLength: 12 }), (table) => {
        const { match, hasHead } = matchColumns(table)
        const made = readDeviceRows(table, match, hasHead, new Set())
        const filled = table.slice(hasHead ? 1 : 0).filter((row) => row.some((each) => each.trim() !== ''))
        expect(made).toHaveLength(filled.length)
        for (const row of made) expect(row.device === undefined).toBe(row.problems.length > 0)
      }),
    )
  })
})

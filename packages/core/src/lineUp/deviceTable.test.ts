import fc from 'fast-check'
import { openLine, sampleDevice, sampleJob } from '../job/fixtures'
import { applyChanges } from '../changes'
import { deviceColumns } from './columns'
import { matchColumns, readDeviceRows, rememberedMatch, tableChanges } from './deviceTable'

const rows = (text: string) => text.split('\n').map((line) => line.split('\t'))
const read = (text: string, job = sampleJob(), update = false) => {
  const table = rows(text)
  const { match, hasHead } = matchColumns(table)
  return readDeviceRows(table, match, hasHead, job, update)
}
let count = 0
const newId = () => `new-${(count += 1)}`
/** The job with the rows of a table in it. */
const taken = (text: string, job = sampleJob(), update = false) =>
  applyChanges(job, tableChanges(read(text, job, update), job, 'process', newId))

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
  test('what a person chose for a head is remembered, also that a column is left out', () => {
    const remembered = rememberedMatch(['KKS', 'IP', 'Remark'], ['tag', 'address', undefined])
    expect(remembered).toEqual({ kks: 'tag', ip: 'address', remark: '' })
    expect(matchColumns(rows('Remark\tkks\tIP'), remembered).match).toEqual([undefined, 'tag', 'address'])
  })
  test('every column is found under the name it is written with', () => {
    expect(matchColumns([deviceColumns.map((column) => column.name)]).match).toEqual(
      deviceColumns.map((column) => column.id),
    )
  })
})

describe('rows of a pasted table', () => {
  test('become devices; empty lines are passed over', () => {
    const job = taken(
      'Tag\tKind\tIP\tUnit\tMAC\nEM-501\tEnergy meter\t10.20.40.50\t1\t025e.0b10.7c14\n\t\t\t\t\nPD-101\tdrive\t\t',
    )
    expect(job.devices).toMatchObject([
      {
        tag: 'EM-501',
        kind: 'meter',
        unitId: 1,
        ports: [{ address: '10.20.40.50', networkId: 'process', gateway: '10.20.40.1', mac: '02:5E:0B:10:7C:14' }],
      },
      { tag: 'PD-101', kind: 'drive', unitId: null, ports: [{ address: null }] },
    ])
  })

  test('what cannot be read is told row by row, cell by cell, with the likely reading; the others stay', () => {
    const made = read('Tag\tIP\tUnit\tKind\nA\t010.020.040.004\t1\t\nB\t10.20.40.256\t248\ttoaster\nC\t10.20.40.7\t\t')
    expect(made.map((row) => row.edit !== undefined)).toEqual([false, false, true])
    expect(made[0]?.problems).toMatchObject([{ column: 'address', refusal: { offers: [{ value: '10.20.40.4' }] } }])
    expect(made[1]?.problems.map((problem) => problem.column)).toEqual(['address', 'unitId', 'kind'])
  })

  test('numbers as spreadsheets write them: 1,0 is 1; 2,5 seconds are refused with the next whole number', () => {
    const made = read('Tag\tUnit\tStarts in, s\nA\t7,0\t30.00\nB\t1\t2,5')
    expect(made[0]?.edit?.device).toMatchObject({ unitId: 7, startUpSeconds: 30 })
    expect(made[1]?.problems).toMatchObject([{ column: 'startUp', refusal: { offers: [{ value: '3' }] } }])
  })

  test('a tag that the job has, one that stands twice, one that is blank', () => {
    const job = sampleJob({ devices: [sampleDevice('A', null)] })
    const made = read('Tag\tIP\nA\t10.0.0.1\nB\t10.0.0.2\nB\t10.0.0.3\n\t10.0.0.4', job)
    expect(made.map((row) => row.problems[0]?.refusal.code)).toEqual([
      'row.tag-taken',
      undefined,
      'row.tag-twice',
      'row.tag-blank',
    ])
  })

  test('where it is wished, a row changes the device that is there; a blank cell clears, a missing one says nothing', () => {
    const job = sampleJob({ devices: [sampleDevice('A', '10.20.40.50', { note: 'old', place: 'panel 1' })] })
    const after = taken('Tag\tIP\tNote\tPlace\nA\t10.20.40.51\t', job, true)
    expect(after.devices[0]).toMatchObject({ note: '', place: 'panel 1', ports: [{ address: '10.20.40.51' }] })
  })

  test('behind a device of the job or of the same table, nothing else', () => {
    const job = sampleJob({ devices: [sampleDevice('PLC', null)] })
    const table = 'Tag\tBehind\nFM-1\tGW\nFM-2\tPLC\nFM-3\tnobody\nGW\t'
    expect(read(table, job).map((row) => row.problems[0]?.refusal.code)).toEqual([
      undefined,
      undefined,
      'row.behind',
      undefined,
    ])
    const after = taken(table, job)
    const tagOf = (id: string | null | undefined) => after.devices.find((each) => each.id === id)?.tag
    const behind = (tag: string) => tagOf(after.devices.find((each) => each.tag === tag)?.behindId)
    expect([behind('FM-1'), behind('FM-2'), behind('FM-3'), behind('GW')]).toEqual(['GW', 'PLC', undefined, undefined])
    expect(after.devices.find((each) => each.tag === 'FM-1')).toMatchObject({ kind: 'field-device', ports: [] })
  })

  test('a table written from a job and taken back in changes nothing', () => {
    const job = sampleJob({
      lines: [
        {
          id: 'bus',
          name: 'Token bus',
          medium: 'token-bus',
          family: 'octal-0-77',
          ...openLine,
          version: 1,
        },
      ],
      devices: [
        sampleDevice('GW', '10.20.40.40', { kind: 'gateway', firmwareFound: '2.1', hostName: 'gw' }),
        sampleDevice('FM', null, {
          behindId: 'GW',
          ports: [],
          firmwareRelation: 'not-above',
          firmwareOfId: 'GW',
          setting: 'keypad',
          startUpSeconds: 12,
          nodes: [{ id: 'n', lineId: 'bus', name: '', node: 10, isMaster: false, version: 1 }],
        }),
      ],
    })
    const table = [
      deviceColumns.map((column) => column.name),
      ...job.devices.map((device) => deviceColumns.map((column) => column.text(device, job))),
    ]
    const { match, hasHead } = matchColumns(table)
    const readings = readDeviceRows(table, match, hasHead, job, true)
    expect(readings.flatMap((row) => row.problems)).toEqual([])
    expect(tableChanges(readings, job, 'process', newId)).toEqual([])
    // The octal node was written in octal.
    expect(table[2]).toContain('Token bus 12')
  })

  test('any table is read without breaking, and no row is lost', () => {
    const cell = fc.oneof(fc.string(), fc.constantFrom('', 'EM-1', '10.0.0.1', 'Tag', 'IP', '248', 'Nodes', 'MAC'))
    fc.assert(
      fc.property(fc.array(fc.array(cell, { maxLength: 8 }), { maxLength: 12 }), (table) => {
        const { match, hasHead } = matchColumns(table)
        const made = readDeviceRows(table, match, hasHead, sampleJob())
        const filled = table.slice(hasHead ? 1 : 0).filter((row) => row.some((each) => each.trim() !== ''))
        expect(made).toHaveLength(filled.length)
        for (const row of made) expect(row.edit === undefined).toBe(row.problems.length > 0)
      }),
    )
  })
})

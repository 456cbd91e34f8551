import { termMatrixOf } from '.'
import { sampleDevice, sampleHandshake, sampleJob, sampleTerms } from './fixtures'

/** Meters that say a word order each; blank says nothing. */
const meters = (...orders: readonly string[]) => {
  const tags = orders.map((_order, index) => `M${index + 1}`)
  return sampleJob({
    devices: [
      sampleDevice('PLC', '10.20.40.10'),
      ...tags.map((tag, index) => sampleDevice(tag, `10.20.40.${50 + index}`, { kind: 'meter' })),
    ],
    handshakes: orders.map((order, index) =>
      sampleHandshake('PLC', tags[index] ?? '', {
        id: tags[index] ?? '',
        terms: order === '' ? [] : sampleTerms('word-order', order),
      }),
    ),
  })
}
const standOut = (...orders: readonly string[]) => {
  const { columns, rows } = termMatrixOf(meters(...orders))
  const column = columns.findIndex(({ id }) => id === 'word-order')
  return rows.flatMap(({ device, cells }) => {
    const most = cells[column]?.mostHave
    return most === undefined ? [] : [`${device}, most have ${most}`]
  })
}

test.each<[string, readonly string[], readonly string[]]>([
  ['one of four', ['ABCD', 'ABCD', 'CDAB', 'ABCD'], ['M3, most have ABCD']],
  ['all alike', ['ABCD', 'ABCD', 'ABCD'], []],
  ['two against two: no majority', ['ABCD', 'ABCD', 'CDAB', 'CDAB'], []],
  ['two are too few', ['ABCD', 'CDAB'], []],
  ['a blank one says nothing, and is not counted', ['ABCD', '', 'CDAB'], []],
  ['a blank one does not stand out', ['ABCD', 'ABCD', 'ABCD', ''], []],
])('who stands out: %s', (_what, orders, found) => {
  expect(standOut(...orders)).toEqual(found)
})

test('devices of another kind are no measure; addresses differ by their nature', () => {
  const job = meters('ABCD', 'ABCD', 'ABCD', 'CDAB')
  const other = { ...job, devices: job.devices.map((each) => (each.id === 'M4' ? { ...each, kind: 'drive' } : each)) }
  expect(termMatrixOf(other).rows.flatMap(({ cells }) => cells.filter(({ mostHave }) => mostHave))).toEqual([])
  const { columns, rows } = termMatrixOf(job)
  const address = columns.findIndex(({ id }) => id === 'address')
  expect(rows.map(({ cells }) => cells[address]?.device)).toEqual([
    '10.20.40.50',
    '10.20.40.51',
    '10.20.40.52',
    '10.20.40.53',
  ])
  expect(rows.every(({ cells }) => cells[address]?.mostHave === undefined)).toBe(true)
})

test('each cell has its state; a term that is between no two ends is no column', () => {
  const { columns, rows } = termMatrixOf(meters('ABCD'))
  expect(columns.map(({ id }) => id)).not.toContain('line-settings')
  const states = Object.fromEntries(columns.map(({ id }, index) => [id, rows[0]?.cells[index]?.state]))
  expect(states).toMatchObject({ 'word-order': 'equal', count: 'unknown' })
})

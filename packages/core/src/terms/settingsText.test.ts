import { claspOf } from './clasp'
import { readSettingsText } from './settingsText'

const entry = (text: string) => ({ text, origin: '' })
const terms = {
  address: { device: entry('10.20.40.50') },
  port: { device: entry('502') },
  firmware: { device: entry('2.1') },
}
const { rows } = claspOf({ tags: { controller: 'PLC', device: 'EM' }, terms })
const read = (text: string) => readSettingsText(text, rows, 'device', terms)

test('lines of a menu, of a page and of an export are read as the terms they name', () => {
  const { found, unplaced } = read(
    [
      '=== Network ===',
      '1) IP address: 10.20.40.51',
      'Netmask = 255.255.255.0',
      'TCP port\t503',
      'Unit id ........ 7',
      'Version: 2.3',
      'Press Q',
    ].join('\r\n'),
  )
  expect(found.map(({ row, line, text }) => [row.id, line, text])).toEqual([
    ['address', 2, '10.20.40.51'],
    ['mask', 3, '255.255.255.0'],
    ['port', 4, '503'],
    ['unit-id', 5, '7'],
    ['firmware', 6, '2.3'],
  ])
  expect(unplaced).toEqual([
    { line: 1, text: '=== Network ===' },
    { line: 7, text: 'Press Q' },
  ])
})

test('a value that is none is told with what is expected; of two lines of one term the first counts', () => {
  const { found, unplaced } = read('Address: 10.20.40.999\nPort: 502\nTCP port: 503\nColour: red')
  expect(found).toMatchObject([
    { row: { id: 'address' }, refusal: { code: 'ipv4.octet-too-large' } },
    { row: { id: 'port' }, text: '502' },
  ])
  expect(unplaced.map(({ line }) => line)).toEqual([3, 4])
})

test('terms that are no rows here are not placed', () => expect(read('Node id: 12').unplaced).toHaveLength(1))

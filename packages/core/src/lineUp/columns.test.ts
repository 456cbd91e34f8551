import type { Device, Job } from '../job'
import { openLine, sampleDevice, sampleJob, samplePort } from '../job/fixtures'
import { applyChanges } from '../changes'
import { cellChanges } from './cellChanges'
import type { DeviceColumnId } from './column'
import { deviceColumn, deviceColumns } from './columns'

const node = (id: string, lineId: string, number: number | null) => ({
  id,
  lineId,
  name: '',
  node: number,
  isMaster: false,
  version: 1,
})
const device: Device = sampleDevice('X-1', '10.20.40.50', {
  nodes: [node('n1', 'tb', 63)],
  ports: [samplePort('10.20.40.50', { id: 'p' })],
})
const job: Job = sampleJob({
  lines: [
    {
      id: 'tb',
      name: 'Token bus',
      medium: 'token-bus',
      family: 'octal-0-77',
      ...openLine,
      version: 1,
    },
    {
      id: 'mb',
      name: 'Motion',
      medium: 'motion-bus',
      family: 'decimal-1-64',
      ...openLine,
      version: 1,
    },
  ],
  devices: [device, sampleDevice('GW-1', '10.20.40.40', { kind: 'gateway' })],
})
let count = 0
const newId = () => `new-${(count += 1)}`

/** What a cell says after a text was typed into it; or the code of the refusal. */
function typed(id: DeviceColumnId, text: string, of: Device = device): string {
  const reading = deviceColumn(id).read(text, job, of)
  if (!reading.ok) return reading.refusal.code
  const after = applyChanges(job, cellChanges(job, of, reading.value, newId))
  const changed = after.devices.find((each) => each.id === of.id)
  return changed ? deviceColumn(id).text(changed, after) : 'gone'
}

describe('what is typed into a cell stands there afterwards', () => {
  test.each<[DeviceColumnId, string, string]>([
    ['tag', ' X-9 ', 'X-9'],
    ['what', 'Pump, duty', 'Pump, duty'],
    ['kind', 'energy METER', 'Energy meter'],
    ['kind', 'ups-card-dhcp', 'UPS card by DHCP'],
    ['behind', 'GW-1', 'GW-1'],
    ['behind', '', ''],
    ['network', 'Process', 'process'],
    ['address', '10.20.40.51', '10.20.40.51'],
    ['address', '', ''],
    ['mask', '/25', '255.255.255.128'],
    ['mask', '255.255.255.0', '255.255.255.0'],
    ['gateway', '10.20.40.2', '10.20.40.2'],
    ['tcpPort', '503', '503'],
    ['tcpPort', '', '502'],
    ['mac', '025e.0b10.7c14', '02:5E:0B:10:7C:14'],
    ['school', 'reservation by hardware address', 'Reservation by hardware address'],
    ['unitId', '17', '17'],
    ['asFound', 'lease', 'lease'],
    ['orderCode', 'VD-110', 'VD-110'],
    ['serialNumber', '0042', '0042'],
    ['firmwareFound', 'v2.10', 'v2.10'],
    ['firmwareNeeded', '>= 2.1', 'at least 2.1'],
    ['firmwareNeeded', '2.1', 'at least 2.1'],
    ['firmwareNeeded', 'not above GW-1', 'not above GW-1'],
    ['firmwareNeeded', '= 3.0', 'equal to 3.0'],
    ['firmwareNeeded', '', ''],
    ['hostName', 'plc-101', 'plc-101'],
    ['setting', 'Keypad, last octet only', 'Keypad, last octet only'],
    ['setting', '', ''],
    ['effective', 'power off and on', 'Power off and on'],
    ['startUp', '150', '150'],
    ['handsOn', '90,0', '90'],
    ['note', 'two\nlines', 'two lines'],
  ])('%s: %j', (id, text, stands) => expect(typed(id, text)).toBe(stands))
})

describe('nodes are written as on their line, the octal one in octal', () => {
  // 77 octal is 63 (common practice, no source).
  test('a number alone goes to the line the device is on', () => {
    expect(deviceColumn('nodes').text(device, job)).toBe('Token bus 77')
    expect(typed('nodes', '12')).toBe('Token bus 12')
  })
  test('several nodes, on several lines, one not planned yet', () =>
    expect(typed('nodes', 'Token bus 01; motion 64; Token bus ?')).toBe('Token bus 01; Motion 64; Token bus ?'))
  test('a blank takes it off its line', () => expect(typed('nodes', '')).toBe(''))
  test('the master of a kind that asks the others comes as one', () => {
    const master = sampleDevice('BM', null, { kind: 'bus-master', nodes: [] })
    const reading = deviceColumn('nodes').read('Token bus 00', job, master)
    const changes = reading.ok ? cellChanges(job, master, reading.value, newId) : []
    expect(changes).toMatchObject([{ op: 'add', table: 'node', fields: { node: 0, isMaster: true } }])
  })
})

describe('what cannot stand there is refused', () => {
  test.each<[DeviceColumnId, string, string]>([
    ['tag', '', 'row.tag-blank'],
    ['tag', 'GW-1', 'row.tag-taken'],
    ['tag', 'x'.repeat(41), 'row.tag-long'],
    ['kind', 'toaster', 'cell.not-listed'],
    ['behind', 'X-1', 'row.behind-self'],
    ['behind', 'nobody', 'row.behind'],
    ['network', 'elsewhere', 'cell.not-listed'],
    ['nodes', '18', 'node.not-octal'],
    ['nodes', 'Motion 65', 'node.range'],
    ['firmwareNeeded', 'at least', 'row.firmware-blank'],
    ['firmwareNeeded', 'not above X-1', 'row.firmware-self'],
    ['startUp', '2,5', 'cell.not-whole'],
    ['what', 'x'.repeat(121), 'cell.long'],
    ['school', 'cloud', 'cell.not-listed'],
  ])('%s: %j', (id, text, code) => expect(typed(id, text)).toBe(code))

  test('a kind that is nearly right offers those that may be meant', () => {
    const reading = deviceColumn('kind').read('ups', job, device)
    expect(reading).toMatchObject({
      ok: false,
      refusal: { offers: [{ value: 'UPS card by serial menu' }, { value: 'UPS card by DHCP' }] },
    })
  })
  test('a long text offers its beginning', () => {
    const reading = deviceColumn('place').read('n'.repeat(130), job, device)
    expect(!reading.ok && reading.refusal.offers[0]?.value).toHaveLength(120)
  })
})

describe('a port', () => {
  const bare = sampleDevice('B', null, { ports: [] })
  const withBare = { ...job, devices: [...job.devices, bare] }
  test('is added with its first field; a blank adds none', () => {
    const read = (text: string) => {
      const reading = deviceColumn('address').read(text, withBare, bare)
      return reading.ok ? cellChanges(withBare, bare, reading.value, newId) : undefined
    }
    expect(read('10.20.40.77')).toMatchObject([
      { op: 'add', table: 'port', fields: { deviceId: 'B', address: '10.20.40.77', tcpPort: 502 } },
    ])
    expect(read('')).toEqual([])
  })
  test('what stands there already is no change', () => {
    const reading = deviceColumn('address').read('10.20.40.50', job, device)
    expect(reading.ok && cellChanges(job, device, reading.value, newId)).toEqual([])
  })
})

test('every column has a name, heads of its own, and an id once', () => {
  expect(new Set(deviceColumns.map((column) => column.id)).size).toBe(deviceColumns.length)
  const heads = deviceColumns.flatMap((column) => column.heads)
  for (const head of heads) expect(head).toMatch(/^[a-z0-9]+$/)
  expect(() => deviceColumn('colour' as never)).toThrow(RangeError)
})

test('what can stand in a list is what the column reads', () => {
  for (const column of deviceColumns)
    for (const choice of column.choices?.(job) ?? [])
      expect(column.read(choice, job, device)).toMatchObject({ ok: true })
})

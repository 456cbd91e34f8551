import { kindFacts } from '../kind'
import { claspFor, imageOfRow, legsOf, pluggedInto } from '.'
import { sampleDevice, sampleHandshake, sampleJob, sampleLine, sampleTerm } from './fixtures'
import type { Device, Line } from './model'

const node = (isMaster: boolean) => ({ id: `n${isMaster}`, lineId: 'L', node: 3, name: '', isMaster, version: 1 })
const behindGateway = (line: Partial<Line>, timeout: string) => {
  const handshake = sampleHandshake('PLC', 'FM', { terms: [sampleTerm('timeout', 'controller', timeout)] })
  const job = sampleJob({
    devices: [
      sampleDevice('PLC', '10.20.40.10'),
      sampleDevice('GW', '10.20.40.40', { nodes: [node(true)] }),
      sampleDevice('FM', null, { ports: [], unitId: 3, behindId: 'GW', nodes: [node(false)] }),
    ],
    lines: [sampleLine(line)],
    handshakes: [handshake],
  })
  const clasp = claspFor(job, handshake)
  return { row: clasp.rows.find(({ id }) => id === 'timeout'), legs: legsOf(job, handshake, clasp) }
}

/**
 * Two tries, each 8 bytes of 10 bits at 9 600 bit/s (8.33 ms), 300 ms of waiting and 5 ms of its own: 626.67 ms, worked
 * out by hand, 627 as a whole number.
 */
test.each<[string, string]>([
  ['610 ms', 'at-odds'],
  ['627 ms', 'at-odds'],
  ['628 ms', 'fits'],
])('a controller that waits %s for a gateway that may take 627 ms: %s', (timeout, state) => {
  const { row, legs } = behindGateway({ timeoutMs: 300, retries: 1, gatewayMs: 5 }, timeout)
  expect(row?.state).toBe(state)
  expect(row?.ends.device).toMatchObject({ state: 'read', entry: { text: '627 ms', origin: 'line serial' } })
  expect(legs.map(({ waits }) => waits)).toEqual(
    expect.arrayContaining([`waits ${timeout}`, 'waits 300 ms, 1 more try, 5 ms of its own']),
  )
})

test.each<[string, Partial<Line>]>([
  ['no tries', { timeoutMs: 300, gatewayMs: 5 }],
  ['no timeout', { retries: 1, gatewayMs: 5 }],
  ['no settings that can be read', { timeoutMs: 300, retries: 1, gatewayMs: 5, settings: 'as before' }],
])('a line that says %s: what the gateway takes is not known, and nothing fits by it', (_what, line) => {
  // That the kind answers within 100 ms says nothing of its gateway.
  expect(behindGateway(line, '600 ms').row).toMatchObject({ state: 'unknown', ends: { device: { state: 'blank' } } })
})

test('a gateway whose own time nobody says: the origin says that it is not counted', () => {
  const { row } = behindGateway({ timeoutMs: 300, retries: 0 }, '600 ms')
  expect(row?.ends.device).toMatchObject({
    entry: { text: '309 ms', origin: 'line serial, the gateway’s own time not counted' },
  })
})

const plug = (tag: string, more: Partial<Device>) =>
  sampleDevice(tag, null, { ports: [], unitId: null, behindId: 'RIO', kind: 'analog-io', ...more })
const rowOf = (...modules: readonly Device[]) => {
  const handshake = sampleHandshake('PLC', 'RIO', { exchange: 'cyclic' })
  const head = sampleDevice('RIO', '10.20.40.30', { kind: 'remote-io', unitId: null })
  const job = sampleJob({ devices: [sampleDevice('PLC', '10.20.40.10'), head, ...modules], handshakes: [handshake] })
  const clasp = claspFor(job, handshake)
  const text = (id: 'input-size' | 'output-size') => {
    const reading = [...clasp.rows, ...clasp.more].find((row) => row.id === id)?.ends.device
    return reading && reading.state !== 'blank' ? reading.entry.text : undefined
  }
  return { job, head, sizes: [text('input-size'), text('output-size')] }
}

test('the sizes of a head are the sums of its modules', () => {
  const { sizes } = rowOf(
    plug('DI', { inputBytes: 2 }),
    plug('DO', { outputBytes: 1 }),
    plug('AI', { inputBytes: 8, outputBytes: 2 }),
  )
  expect(sizes).toEqual(['10 bytes', '3 bytes'])
})

test('one module that says nothing leaves both sizes open; a device with a unit of its own is no module', () => {
  expect(rowOf(plug('DI', { inputBytes: 2 }), plug('X', {})).sizes).toEqual([undefined, undefined])
  expect(rowOf().sizes).toEqual([undefined, undefined])
  const { job, head } = rowOf(plug('DI', { inputBytes: 2 }), plug('M', { unitId: 4 }))
  expect(pluggedInto(job, head).map(({ device }) => device.tag)).toEqual(['DI'])
  expect(imageOfRow([])).toBeUndefined()
})

test('a module takes its bytes from its kind, and else by its name from the description file of its head', () => {
  const { job, head } = rowOf(plug('A', { kind: 'own-di' }), plug('B', { what: ' sixteen OUTPUTS ' }))
  const kind = { ...kindFacts('remote-io', []), id: 'own-di', image: { inputBytes: 4, outputBytes: 0 } }
  const described = {
    ...kindFacts('remote-io', []),
    id: 'remote-io-described',
    describedBy: {
      product: '',
      rates: [],
      modules: [{ name: 'Sixteen outputs', inputBytes: 0, outputBytes: 2 }],
    },
  }
  const devices = job.devices.map((each) => (each.id === head.id ? { ...each, kind: described.id } : each))
  const known = { ...job, devices, kinds: [kind, described].map((facts, k) => ({ id: `k${k}`, version: 1, facts })) }
  const modules = pluggedInto(known, { ...head, kind: described.id })
  expect(imageOfRow(modules)).toEqual({ inputBytes: 4, outputBytes: 2 })
})

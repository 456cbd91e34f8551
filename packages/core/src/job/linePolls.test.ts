import { isSerial, linePollsOf, serialLineOf } from '.'
import { sampleDevice, sampleHandshake, sampleJob, sampleLine, samplePoint, sampleTerms } from './fixtures'

const node = (lineId: string, at: number | null, isMaster = false) => ({
  id: `${lineId}-${at}`,
  lineId,
  node: at,
  name: '',
  isMaster,
  version: 1,
})
const asks = (deviceId: string, count: string, more: object = {}) =>
  sampleHandshake('PLC', deviceId, {
    id: `of ${deviceId}`,
    points: [samplePoint({ source: null })],
    terms: [
      ...sampleTerms('function-code', '03'),
      ...sampleTerms('first-register', '40011'),
      ...sampleTerms('count', count),
      ...sampleTerms('data-type', 'uint16'),
      ...sampleTerms('word-order', 'ABCD'),
    ],
    ...more,
  })
const meter = (tag: string, at: number) =>
  sampleDevice(tag, null, { ports: [], unitId: at, behindId: 'GW', nodes: [node('L', at)] })
const line = sampleLine({ id: 'L' })
const job = sampleJob({
  devices: [
    sampleDevice('PLC', '10.20.40.10'),
    sampleDevice('GW', '10.20.40.40', { nodes: [node('L', null, true)] }),
    ...['A', 'B', 'C', 'D'].map((tag, index) => meter(tag, index + 1)),
  ],
  lines: [line],
  handshakes: [asks('A', '1'), asks('B', '10'), asks('C', 'many')],
})

test('each request of a controller is a poll with its sizes; what cannot be counted is named with its reason', () => {
  const { polls, notCounted } = linePollsOf(job, line, 25)
  // Sizes of FC 3: 8 bytes asked; 5 bytes and 2 a register answered. MODBUS over Serial Line V1.02, 2.5.1.
  expect(
    polls.map(({ name, asks, bytes, deviceMs, handshakeId }) => [`${name}: ${asks}`, bytes, deviceMs, handshakeId]),
  ).toEqual([
    ['A: 03 read holding registers, 1 from 10', { request: 8, answer: 7 }, 25, 'of A'],
    ['B: 03 read holding registers, 10 from 10', { request: 8, answer: 25 }, 25, 'of B'],
  ])
  expect(notCounted).toEqual([
    { tag: 'C', what: 'Count must be a whole number from 1 to 125.' },
    { tag: 'D', what: 'No controller asks it yet.' },
  ])
})

test('a point with a place of its own is one more request; the same request counts once', () => {
  const own = (register: string) => samplePoint({ source: { register, type: 'float32', order: 'ABCD', scale: 1 } })
  const points = [samplePoint({ source: null }), own('40021'), own('40021'), own('40031')]
  const { polls } = linePollsOf({ ...job, handshakes: [asks('A', '1', { points })] }, line, 0)
  expect(polls.map((poll) => poll.asks.split(', ')[1])).toEqual(['1 from 10', '2 from 20', '2 from 30'])
})

test('the line of a handshake is the serial one of its device; a bus has no bit rate of characters', () => {
  const [first] = job.handshakes
  if (!first) throw new Error('no handshake')
  expect(serialLineOf(job, first)?.id).toBe('L')
  expect(serialLineOf({ ...job, lines: [sampleLine({ id: 'L', medium: 'field-bus' })] }, first)).toBeUndefined()
  expect(serialLineOf(job, sampleHandshake('PLC', 'GW', {}))?.id).toBe('L')
  expect(serialLineOf(job, sampleHandshake('GW', 'PLC', {}))).toBeUndefined()
  expect([isSerial(line), isSerial(sampleLine({ medium: 'backplane' }))]).toEqual([true, false])
})

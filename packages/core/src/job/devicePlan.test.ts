import { devicePlanOf, serialWayOf } from './devicePlan'
import { sampleDevice, sampleHandshake, sampleJob, sampleLine, samplePoint, sampleTerms } from './fixtures'
import type { Device, Line } from './model'

const node = (lineId: string, at: number | null) => ({
  id: `${lineId}-node`,
  lineId,
  node: at,
  name: '',
  isMaster: false,
  version: 1,
})
const meter = (more: Partial<Device> = {}) => sampleDevice('EM', null, { ports: [], nodes: [node('L', 7)], ...more })
const plugged = sampleLine({ laptopPort: '/dev/ttyUSB0' })
const wayOf = (device: Device | undefined, ...lines: readonly Line[]) =>
  serialWayOf(sampleJob({ devices: device ? [device] : [], lines }), device)

describe('the line on which a device is asked from this laptop', () => {
  test('its line, the port it is plugged into, the settings and its node as the unit', () => {
    expect(wayOf(meter(), plugged)).toEqual({
      protocol: 'modbus-rtu',
      line: 'serial',
      path: '/dev/ttyUSB0',
      settings: '9600 8N1',
      unit: 7,
    })
  })

  test('none where it has an address of its own, where nothing is plugged in, or without a node', () => {
    expect(wayOf(sampleDevice('EM', '10.20.40.50', { nodes: [node('L', 7)] }), plugged)).toBeUndefined()
    expect(wayOf(meter(), sampleLine())).toBeUndefined()
    expect(wayOf(meter({ nodes: [node('L', null)] }), plugged)).toBeUndefined()
    expect(wayOf(meter({ nodes: [] }), plugged)).toBeUndefined()
    expect(wayOf(meter({ nodes: [node('other', 7)] }), plugged)).toBeUndefined()
    expect(wayOf(undefined, plugged)).toBeUndefined()
  })

  test('a node that is no Modbus unit is never asked: 0 speaks to all, above 247 is reserved', () => {
    // Modbus over serial line V1.02, 2.2: 1 to 247 are individual, 0 is broadcast.
    const asked = [0, 1, 247, 248].map((at) => wayOf(meter({ nodes: [node('L', at)] }), plugged)?.unit)
    expect(asked).toEqual([undefined, 1, 247, undefined])
  })

  test('of two lines the one that is plugged in', () => {
    const device = meter({ nodes: [node('L', 7), node('M', 9)] })
    expect(wayOf(device, sampleLine(), sampleLine({ id: 'M', laptopPort: '/dev/ttyS1' }))).toMatchObject({ unit: 9 })
  })
})

describe('how a device is read', () => {
  const job = (device: Device, lines: readonly Line[]) =>
    sampleJob({
      devices: [sampleDevice('PLC', '10.20.40.10'), device],
      lines,
      handshakes: [
        sampleHandshake('PLC', 'EM', {
          terms: [
            ...sampleTerms('function-code', '03'),
            ...sampleTerms('first-register', '40011'),
            ...sampleTerms('count', '2'),
            ...sampleTerms('data-type', 'float32'),
            ...sampleTerms('word-order', 'CDAB'),
          ],
        }),
      ],
    })
  const planned = (device: Device, lines: readonly Line[], more?: Parameters<typeof samplePoint>[0]) => {
    const made = job(device, lines)
    return devicePlanOf(made, made.handshakes[0]!, more && samplePoint(more))
  }

  test('over the line no address, port or unit of the terms is asked for', () => {
    expect(planned(meter(), [plugged])).toMatchObject({
      ok: true,
      value: { way: { protocol: 'modbus-rtu', unit: 7 }, request: { code: 3, address: 10, count: 2 } },
    })
    expect(planned(meter(), [sampleLine()])).toMatchObject({
      ok: false,
      refusal: { gaps: [{ term: 'address' }, { term: 'port' }] },
    })
  })

  test('a point with a place of its own is read from there, by as many registers as its type takes', () => {
    const source = { register: '40101', type: 'uint16', order: 'ABCD', scale: 0.1 } as const
    expect(planned(meter(), [plugged], { source })).toMatchObject({
      ok: true,
      value: { request: { code: 3, address: 100, count: 1 }, format: { type: 'uint16', order: 'ABCD' }, scale: 0.1 },
    })
    // It names its table: that one is read, whatever the terms say of other points.
    const other = { ...source, register: '30101' }
    expect(planned(meter(), [plugged], { source: other })).toMatchObject({
      ok: true,
      value: { request: { code: 4, address: 100 } },
    })
    // A table of bits is none for a value of registers: it contradicts the function.
    const wrong = { ...source, register: '12000' }
    expect(planned(meter(), [plugged], { source: wrong })).toMatchObject({
      ok: false,
      refusal: { gaps: [{ term: 'first-register' }] },
    })
  })
})

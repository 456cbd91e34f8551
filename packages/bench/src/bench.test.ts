/** Independent clients of the registry (modbus-serial, jsmodbus) against our stand-ins, over real sockets. */
import { Socket } from 'node:net'
import { client as jsClient } from 'jsmodbus'
import ModbusRTU from 'modbus-serial'
import { protocolAddress, tcpUnit } from '@calm/core/modbus'
import { benchHost } from './addressBook'
import { Bench } from './bench'
import { ControllerProgram } from './controller'
import { energyMeter, meterValuesAt } from './energyMeter'
import { noFaults } from './faults'
import { StandIn } from './standIn'

let standIn: StandIn
let client: ModbusRTU
let now = 1_000_000

beforeAll(async () => {
  const definition = energyMeter(() => now)
  standIn = new StandIn(definition, benchHost(definition.plannedAddress))
  await standIn.start(0)
  client = new ModbusRTU()
  await client.connectTCP(standIn.host, { port: standIn.port })
  client.setID(1)
  client.setTimeout(400)
})
afterAll(async () => {
  await new Promise<void>((done) => client.close(() => done()))
  await standIn.stop()
})
beforeEach(() => {
  standIn.faults = noFaults
})

/** Two registers as a float, as their client gives the raw bytes. */
const float = async (address: number) => (await client.readInputRegisters(address, 2)).buffer.readFloatBE(0)

describe('the energy meter', () => {
  test('10.20.40.50 is served on 127.20.40.50', () => expect(standIn.host).toBe('127.20.40.50'))

  test('its registers hold its values, float 32 with the high word first', async () => {
    now += 7_000
    const values = meterValuesAt(7)
    expect(await float(0)).toBeCloseTo(values.voltages[0], 4)
    expect(await float(18)).toBeCloseTo(values.totalPower, 4)
    expect((await client.readInputRegisters(26, 2)).buffer.readUInt32BE(0)).toBe(Math.floor(values.energy * 1000))
    expect((await client.readInputRegisters(40, 8)).buffer.toString('latin1').replace(/\0+$/, '')).toBe(
      'EM-501 0000417',
    )
  })

  test('its values fit together at any time: P is the sum of V x I x cos(phi), with the second CT turned round', () => {
    for (let second = 0; second < 3000; second += 7) {
      const { voltages, currents, powers, totalPower, powerFactor } = meterValuesAt(second)
      const expected = [0, 1, 2].map(
        (k) => ((k === 1 ? -1 : 1) * (voltages[k] ?? 0) * (currents[k] ?? 0) * powerFactor) / 1000,
      )
      expect(powers[0]).toBeCloseTo(expected[0] ?? 0, 9)
      expect(powers[1]).toBeCloseTo(expected[1] ?? 0, 9)
      expect(totalPower).toBeCloseTo(
        expected.reduce((a, b) => a + b),
        9,
      )
      expect(Math.abs(meterValuesAt(second + 1).voltages[0] - voltages[0])).toBeLessThan(0.1)
    }
  })

  test('says what it is by FC 43/14', async () => {
    const { data } = await client.readDeviceIdentification(1, 0)
    expect(Object.values(data)).toEqual(['Sample maker', 'EM-3F', '1.4'])
  })

  test('jsmodbus reads the same registers', async () => {
    const socket = new Socket()
    const other = new jsClient.TCP(socket, 1, 1000)
    await new Promise<void>((done) => socket.connect(standIn.port, standIn.host, done))
    const { response } = await other.readInputRegisters(0, 6)
    expect(response.body.valuesAsArray).toEqual((await client.readInputRegisters(0, 6)).data)
    socket.destroy()
  })

  test('a register that is not there, and a function it does not know', async () => {
    await expect(client.readInputRegisters(60, 1)).rejects.toMatchObject({ modbusCode: 2 })
    await expect(client.writeCoil(0, true)).rejects.toMatchObject({ modbusCode: 1 })
  })
})

describe('its switches', () => {
  test('words swapped', async () => {
    const right = (await client.readInputRegisters(0, 2)).data
    standIn.faults = { ...noFaults, wordsSwapped: true }
    expect((await client.readInputRegisters(0, 2)).data).toEqual([...right].reverse())
  })
  test('map shifted by one', async () => {
    const right = (await client.readInputRegisters(0, 4)).data
    standIn.faults = { ...noFaults, mapShifted: true }
    expect((await client.readInputRegisters(1, 4)).data).toEqual(right)
    await expect(client.readInputRegisters(0, 2)).rejects.toMatchObject({ modbusCode: 2 })
  })
  test('exception 2', async () => {
    standIn.faults = { ...noFaults, exception2: true }
    await expect(client.readInputRegisters(0, 2)).rejects.toMatchObject({ modbusCode: 2 })
  })
  test.each(['silent', 'wrongUnit', 'slow'] as const)('%s: their client gets nothing it can use', async (fault) => {
    standIn.faults = { ...noFaults, [fault]: true }
    await expect(client.readInputRegisters(0, 2)).rejects.toBeDefined()
  })
})

describe('the controller’s program', () => {
  const tag = {
    tag: 'U1',
    address: '10.20.40.50',
    port: 502,
    unit: tcpUnit(1),
    servedAt: 100,
    scale: 1,
    offset: 0,
    request: { code: 4 as const, address: protocolAddress(0), count: 2 },
  }
  const words = [0x4366, 0x6666]
  const served = (program: ControllerProgram) => program.entries()[0]?.words()

  test('serves what it read; with the wrong word order it serves a wrong number', async () => {
    const program = new ControllerProgram(async () => ({ kind: 'words', code: 4, words }))
    program.load([{ ...tag, format: { type: 'float32', order: 'ABCD' } }])
    await program.poll()
    expect(served(program)).toEqual(words)
    program.load([{ ...tag, format: { type: 'float32', order: 'CDAB' } }])
    await program.poll()
    expect(served(program)).toEqual([0x6666, 0x4366])
  })

  test('writes "not a number" when the device did not answer, so that an old value never looks live', async () => {
    let answers = true
    const program = new ControllerProgram(async () => (answers ? { kind: 'words', code: 4, words } : undefined))
    program.load([{ ...tag, format: { type: 'float32', order: 'ABCD' } }])
    await program.poll()
    answers = false
    await program.poll()
    expect(served(program)).toEqual([0x7fc0, 0])
  })
})

describe('two benches on one machine', () => {
  test('each takes a block of loopback addresses of its own, and lets it go', async () => {
    const [a, b] = [new Bench(async () => undefined, Date.now), new Bench(async () => undefined, Date.now)]
    await a.start(0)
    await b.start(0)
    const hosts = (bench: Bench) => bench.list().map((each) => each.servedAt.split(':')[0])
    expect(hosts(a).filter((host) => hosts(b).includes(host))).toEqual([])
    expect(b.block).toBeGreaterThan(a.block)
    // What one resolves is never the other's.
    expect(b.resolve('10.20.40.50', 502).host).not.toBe(a.resolve('10.20.40.50', 502).host)
    const freed = a.block
    await a.stop()
    const c = new Bench(async () => undefined, Date.now)
    await c.start(0)
    expect(c.block).toBeLessThanOrEqual(freed)
    await b.stop()
    await c.stop()
  })

  test('an address of a block', () => {
    expect([benchHost('10.20.40.50'), benchHost('10.20.40.50', 3), benchHost('192.168.1.20', 1)]).toEqual([
      '127.20.40.50',
      '127.23.40.50',
      '127.169.1.20',
    ])
  })
})

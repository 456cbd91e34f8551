/**
 * Our codec beside two independent libraries of the registry, modbus-serial and jsmodbus: our client against their
 * servers, their frames read by ours and ours by theirs. A fault of ours cannot cancel itself out here.
 */
import { createServer, type AddressInfo, type Server } from 'node:net'
import {
  decodeRequest,
  decodeRtuFrame,
  encodeResponse,
  encodeRtuFrame,
  encodeTcpRequest,
  hexText,
  protocolAddress,
  serialUnit,
  tcpUnit,
  type ModbusRequest,
} from '@calm/core/modbus'
import { ModbusTCPRequest, server as jsServer } from 'jsmodbus'
import ModbusRTU, { ServerSerial, ServerTCP } from 'modbus-serial'
import { portPair, rawServer, type PortPair } from '../fixtures'
import { Exchange } from './exchange'
import { LINE } from './fixtures'
import { modbusRtu, type RtuAsk } from './modbusRtu'
import { modbusTcp, type TcpAsk } from './modbusTcp'
import type { Outcome } from './outcome'
import { serialTransport } from './serialTransport'
import { tcpTransport } from './tcpTransport'

const at = protocolAddress
const unit = tcpUnit(1)
const timing = { connectTimeoutMs: 1000, responseTimeoutMs: 1000, idleMs: 5_000 }

/** Values that their servers hold: register n holds 3n + 1, coil n is on where n is divisible by 3. */
const registerAt = (address: number) => (3 * address + 1) & 0xffff
const coilAt = (address: number) => address % 3 === 0

const reads: readonly ModbusRequest[] = [
  { code: 1, address: at(0), count: 19 },
  { code: 2, address: at(5), count: 8 },
  { code: 3, address: at(0), count: 1 },
  { code: 3, address: at(100), count: 125 },
  { code: 4, address: at(7), count: 2 },
]

function expectRead(request: ModbusRequest, outcome: Outcome): void {
  if (outcome.kind !== 'answered' || !('count' in request)) throw new Error(JSON.stringify(outcome))
  const addresses = Array.from({ length: request.count }, (_, k) => request.address + k)
  if (outcome.response.kind === 'bits') expect(outcome.response.bits).toEqual(addresses.map(coilAt))
  else expect(outcome.response).toMatchObject({ words: addresses.map(registerAt) })
}

describe('our client against the server of modbus-serial', () => {
  const written: string[] = []
  let server: ServerTCP
  let exchange: Exchange<TcpAsk>
  beforeAll(async () => {
    const probe = await rawServer(() => undefined)
    await probe.stop()
    server = new ServerTCP(store(written), { host: '127.0.0.1', port: probe.port, unitID: 1 })
    await new Promise((done) => server.on('initialized', done))
    exchange = new Exchange(tcpTransport('127.0.0.1', probe.port), modbusTcp(), timing)
  })
  afterAll(async () => {
    exchange.close()
    await new Promise<void>((done) => server.close(() => done()))
  })

  test.each(reads)('%j', async (request) => expectRead(request, await exchange.ask({ unit, request })))

  test.each<[ModbusRequest, string[]]>([
    [{ code: 5, address: at(9), value: true }, ['coil 9 true']],
    [{ code: 6, address: at(4), value: 4660 }, ['register 4 4660']],
    [{ code: 15, address: at(2), values: [true, false, true] }, ['coil 2 true', 'coil 3 false', 'coil 4 true']],
    [{ code: 16, address: at(30), values: [1, 65_535] }, ['register 30 1', 'register 31 65535']],
  ])('%j', async (request, expected) => {
    written.length = 0
    expect(await exchange.ask({ unit, request })).toMatchObject({ kind: 'answered', response: { kind: 'written' } })
    expect(written).toEqual(expected)
  })
})

const store = (written: string[]) => ({
  getCoil: (address: number) => coilAt(address),
  getDiscreteInput: (address: number) => coilAt(address),
  getHoldingRegister: (address: number) => registerAt(address),
  getInputRegister: (address: number) => registerAt(address),
  setCoil: (address: number, value: boolean) => void written.push(`coil ${address} ${value}`),
  setRegister: (address: number, value: number) => void written.push(`register ${address} ${value}`),
})

describe('our client on a serial line against the RTU server of modbus-serial', () => {
  const written: string[] = []
  let pair: PortPair
  let server: ServerSerial
  let exchange: Exchange<RtuAsk>
  const ask = (request: ModbusRequest, unit = 3) => exchange.ask({ unit: serialUnit(unit), request })
  beforeAll(async () => {
    pair = await portPair()
    server = new ServerSerial(store(written), { port: pair.far, baudRate: LINE.baudRate, unitID: 3 })
    await new Promise((done) => server.on('initialized', done))
    exchange = new Exchange(serialTransport(pair.near, LINE), modbusRtu(LINE), timing)
  })
  afterAll(async () => {
    exchange.close()
    await new Promise<void>((done) => server.close(() => done()))
    pair.stop()
  })

  test.each(reads)('%j', async (request) => expectRead(request, await ask(request)))

  test.each<[ModbusRequest, string[]]>([
    [{ code: 5, address: at(9), value: true }, ['coil 9 true']],
    [{ code: 6, address: at(4), value: 4660 }, ['register 4 4660']],
    [{ code: 16, address: at(30), values: [1, 65_535] }, ['register 30 1', 'register 31 65535']],
  ])('%j', async (request, expected) => {
    written.length = 0
    expect(await ask(request)).toMatchObject({ kind: 'answered', response: { kind: 'written' } })
    expect(written).toEqual(expected)
  })

  test('another unit is silent, and the one that is there answers after it', async () => {
    expect(await ask({ code: 3, address: at(0), count: 1 }, 4)).toMatchObject({ kind: 'no-answer' })
    expectRead({ code: 3, address: at(0), count: 1 }, await ask({ code: 3, address: at(0), count: 1 }))
  })

  test('200 reads of changing places, each with the words of its own place', async () => {
    for (let k = 0; k < 200; k += 1) {
      const request: ModbusRequest = { code: 3, address: at((k * 37) % 900), count: 1 + (k % 9) }
      expectRead(request, await ask(request))
    }
  })
})

describe('our client against the server of jsmodbus', () => {
  let net: Server
  let exchange: Exchange<TcpAsk>
  beforeAll(async () => {
    net = createServer()
    const registers = Buffer.alloc(2 * 400)
    const bits = Buffer.alloc(50)
    for (let address = 0; address < 400; address += 1) {
      registers.writeUInt16BE(registerAt(address), 2 * address)
      if (coilAt(address)) bits[address >> 3] = (bits[address >> 3] ?? 0) | (1 << (address & 7))
    }
    new jsServer.TCP(net, { holding: registers, input: registers, coils: bits, discrete: bits })
    await new Promise<void>((done) => net.listen(0, '127.0.0.1', done))
    exchange = new Exchange(tcpTransport('127.0.0.1', (net.address() as AddressInfo).port), modbusTcp(), timing)
  })
  afterAll(() => {
    exchange.close()
    net.close()
  })

  test.each(reads)('%j', async (request) => expectRead(request, await exchange.ask({ unit, request })))
})

describe('frames side by side', () => {
  test.each<ModbusRequest>([
    ...reads,
    { code: 5, address: at(0xac), value: true },
    { code: 6, address: at(1), value: 3 },
    { code: 16, address: at(1), values: [10, 258] },
  ])('jsmodbus reads our TCP frame of %j', (request) => {
    const bytes = encodeTcpRequest({ transaction: 0x0102, unit: tcpUnit(17), request })
    const theirs = ModbusTCPRequest.fromBuffer(Buffer.from(bytes))
    if (!theirs) throw new Error('not read')
    expect({ id: theirs.id, unit: theirs.unitId, protocol: theirs.protocol, fc: theirs.body.fc }).toEqual({
      id: 0x0102,
      unit: 17,
      protocol: 0,
      fc: request.code,
    })
    // Written again by them, byte for byte the same.
    expect(hexText(theirs.createPayload())).toBe(hexText(bytes))
  })

  test('modbus-serial speaks RTU with a server made of our RTU codec alone', async () => {
    const asked: string[] = []
    const server = await rawServer((socket) =>
      socket.on('data', (bytes) => {
        const frame = decodeRtuFrame(bytes)
        if (!frame.ok) return
        const reading = decodeRequest(frame.value.pdu)
        if ('exception' in reading) return
        const { request } = reading
        asked.push(`${frame.value.unit}: ${request.code}`)
        const answer =
          'count' in request && request.code <= 2
            ? { bits: Array.from({ length: request.count }, (_, k) => coilAt(request.address + k)) }
            : 'count' in request
              ? { words: Array.from({ length: request.count }, (_, k) => registerAt(request.address + k)) }
              : { written: true as const }
        socket.write(encodeRtuFrame(frame.value.unit, encodeResponse(request, answer)))
      }),
    )
    const client = new ModbusRTU()
    await client.connectTelnet(server.host, { port: server.port })
    client.setID(3)
    client.setTimeout(1000)
    try {
      expect((await client.readHoldingRegisters(10, 3)).data).toEqual([31, 34, 37])
      expect((await client.readInputRegisters(0, 1)).data).toEqual([1])
      expect((await client.readCoils(0, 4)).data.slice(0, 4)).toEqual([true, false, false, true])
      expect(await client.writeRegister(5, 99)).toEqual({ address: 5, value: 99 })
      expect(await client.writeRegisters(5, [1, 2])).toEqual({ address: 5, length: 2 })
      expect(asked).toEqual(['3: 3', '3: 4', '3: 1', '3: 6', '3: 16'])
    } finally {
      await new Promise<void>((done) => client.close(() => done()))
      await server.stop()
    }
  })
})

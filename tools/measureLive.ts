import { energyMeter, StandIn } from '@calm/bench'
import { protocolAddress, serialUnit, tcpUnit } from '@calm/core/modbus'
import { frameGapMs } from '@calm/core/serial'
import ModbusRTU, { ServerSerial } from 'modbus-serial'
import {
  sampleDevice,
  sampleHandshake,
  sampleJob,
  samplePoint,
  samplePort,
  sampleTerms,
} from '../packages/core/src/job/fixtures'
import { readPacked } from '../packages/server/src/live/readPacked'
import { ExchangePool, rtuChannel, tcpChannel } from '../packages/server/src/exchange'
import { portPair } from '../packages/server/src/fixtures/portPair'
import type { Line } from './measured'

/**
 * The same reads one after the other, ours and a bare loop of a library, taking turns; the middle of all turns but the
 * first, in which both still run cold: a meter is read for hours.
 */
async function inTurns(
  ours: () => Promise<unknown>,
  bare: () => Promise<unknown>,
  { reads, cold, turns }: { readonly reads: number; readonly cold: number; readonly turns: number },
) {
  const times = { ours: [] as number[], bare: [] as number[] }
  for (let turn = 0; turn < cold + turns; turn += 1)
    for (const [name, read] of [
      ['ours', ours],
      ['bare', bare],
    ] as const) {
      const start = performance.now()
      for (let k = 0; k < reads; k += 1) await read()
      if (turn >= cold) times[name].push((performance.now() - start) / reads)
    }
  const half = (list: number[]) => list.sort((a, b) => a - b)[Math.floor(list.length / 2)] ?? NaN
  return { ours: half(times.ours), bare: half(times.bare) }
}

const lines = (carrier: string, { ours, bare }: { ours: number; bare: number }): readonly Line[] => [
  { work: `live read over ${carrier}, round trip`, measured: `${(ours * 1000).toFixed(0)} us`, target: '-' },
  { work: 'the same by a bare modbus-serial loop', measured: `${(bare * 1000).toFixed(0)} us`, target: '-' },
  { work: 'ratio, ours to bare', measured: (ours / bare).toFixed(2), target: 'at most 1.10' },
]

/** Two registers of a stand-in over TCP. */
export async function tcpRead(): Promise<readonly Line[]> {
  const standIn = new StandIn(energyMeter(Date.now), '127.20.40.50')
  await standIn.start(0)
  const target = { host: standIn.host, port: standIn.port }
  const pool = new ExchangePool()
  const channel = tcpChannel(target)
  const bare = new ModbusRTU()
  await bare.connectTCP(target.host, { port: target.port })
  bare.setID(1)
  const request = { code: 4 as const, address: protocolAddress(0), count: 2 }
  const times = await inTurns(
    () => pool.ask(channel, { unit: tcpUnit(1), request }),
    () => bare.readInputRegisters(0, 2),
    { reads: 200, cold: 15, turns: 31 },
  )
  pool.close()
  await new Promise<void>((done) => bare.close(() => done()))
  await standIn.stop()
  return lines('TCP', times)
}

/** All thirteen values of the meter: ours in as few requests as it takes, and a bare loop with one read for each. */
export async function refreshOfPoints(): Promise<readonly Line[]> {
  const standIn = new StandIn(energyMeter(Date.now), '127.20.40.50')
  await standIn.start(0)
  const places = Array.from({ length: 13 }, (_, k) => 2 * k)
  const handshake = sampleHandshake('PLC', 'EM', {
    terms: [
      ...sampleTerms('address', standIn.host),
      ...sampleTerms('port', String(standIn.port)),
      ...sampleTerms('unit-id', '1'),
      ...sampleTerms('function-code', '04'),
    ],
    points: places.map((address) =>
      samplePoint({
        id: `p${address}`,
        source: { register: `3${String(address + 1).padStart(4, '0')}`, type: 'float32', order: 'ABCD', scale: 1 },
      }),
    ),
  })
  const job = sampleJob({
    mode: 'plant',
    devices: [
      sampleDevice('PLC', '127.0.0.9'),
      sampleDevice('EM', standIn.host, { ports: [samplePort(standIn.host, { tcpPort: standIn.port })] }),
    ],
    handshakes: [handshake],
  })
  const pool = new ExchangePool()
  const context = { pool, bench: undefined, clock: Date.now }
  const bare = new ModbusRTU()
  await bare.connectTCP(standIn.host, { port: standIn.port })
  bare.setID(1)
  const apart = new Set<string>()
  const { signal } = new AbortController()
  let values = 0
  const { ours, bare: loop } = await inTurns(
    async () => {
      values = 0
      for await (const { reading } of readPacked(context, job, handshake, apart, signal))
        values += reading.value === null ? 0 : 1
    },
    async () => {
      for (const address of places) await bare.readInputRegisters(address, 2)
    },
    { reads: 60, cold: 10, turns: 21 },
  )
  pool.close()
  await new Promise<void>((done) => bare.close(() => done()))
  await standIn.stop()
  return [
    { work: `refresh of ${values} points of a device`, measured: `${(ours * 1000).toFixed(0)} us`, target: '-' },
    { work: 'a bare modbus-serial loop, one read each', measured: `${(loop * 1000).toFixed(0)} us`, target: '-' },
    { work: 'times as fast', measured: (loop / ours).toFixed(1), target: 'at least 5' },
  ]
}

const SETTINGS = { baudRate: 115_200, dataBits: 8, parity: 'none', stopBits: 1 } as const

interface Client {
  readonly read: () => Promise<unknown>
  readonly close: () => void
}

/**
 * Two registers over RTU on a pair of pseudo terminals: the same server, asked by ours and then by the library. Ours once
 * as it is, with the silence of decision 0016, and once with the silence that the line rule asks for and no more: the
 * rest of the ratio is that choice.
 */
export async function rtuRead(): Promise<readonly Line[]> {
  const measure = async (open: (port: string) => Promise<Client>) => {
    const pair = await portPair()
    const server = new ServerSerial(
      { getHoldingRegister: (address: number) => address },
      { port: pair.far, baudRate: SETTINGS.baudRate, unitID: 3 },
    )
    await new Promise((done) => server.on('initialized', done))
    const client = await open(pair.near)
    const { ours } = await inTurns(client.read, () => Promise.resolve(), { reads: 20, cold: 1, turns: 10 })
    client.close()
    await new Promise<void>((done) => server.close(() => done()))
    pair.stop()
    return ours
  }
  const byOurs = (quietMs?: number) =>
    measure((port) => {
      const pool = new ExchangePool()
      const usual = rtuChannel(port, SETTINGS)
      const channel = {
        ...usual,
        protocol: () => ({ ...usual.protocol(), ...(quietMs !== undefined && { quietMs }) }),
      }
      const request = { code: 3 as const, address: protocolAddress(0), count: 2 }
      return Promise.resolve({
        read: () => pool.ask(channel, { unit: serialUnit(3), request }),
        close: () => pool.close(),
      })
    })
  const ours = await byOurs()
  const byTheRule = await byOurs(frameGapMs(SETTINGS))
  const bare = await measure(async (port) => {
    const client = new ModbusRTU()
    await client.connectRTUBuffered(port, SETTINGS)
    client.setID(3)
    return { read: () => client.readHoldingRegisters(0, 2), close: () => void client.close(() => undefined) }
  })
  return [
    ...lines('RTU, pty pair', { ours, bare }),
    {
      work: 'ratio with the silence of the line rule only',
      measured: (byTheRule / bare).toFixed(2),
      target: 'at most 1.10',
    },
  ]
}

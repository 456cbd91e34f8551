import { setTimeout as pause } from 'node:timers/promises'
import { decodeTcpFrame, encodeTcpFrame, protocolAddress, tcpUnit } from '@calm/core/modbus'
import { rawServer } from '../fixtures'
import { Exchange } from './exchange'
import { modbusTcp, type TcpAsk } from './modbusTcp'
import { explainOutcome } from './outcome'
import { tcpTransport } from './tcpTransport'
import { TransactionNumbers } from './transactionNumbers'

const ask: TcpAsk = { unit: tcpUnit(1), request: { code: 3, address: protocolAddress(0), count: 2 } }
const timing = { connectTimeoutMs: 500, responseTimeoutMs: 150, idleMs: 5_000 }
const right = [3, 4, 0x3f, 0x80, 0, 0]

/** Parts of the request that arrived, so that an answer can be made to fit or not. */
const header = (bytes: Buffer) => {
  const frame = decodeTcpFrame(bytes)
  if (!frame.ok) throw new Error(frame.refusal.what)
  return frame.value
}

/** The frame that answers as asked. */
const answer = (transaction: number) => encodeTcpFrame(transaction, 1, Uint8Array.from(right))

/** A device that answers garbage on its first connection and rightly on each later one. */
function garbageFirst(): { readonly serve: Parameters<typeof rawServer>[0]; readonly connections: () => number } {
  let connections = 0
  return {
    serve: (socket) => {
      connections += 1
      const garbage = connections === 1
      socket.on('data', (bytes) =>
        socket.write(garbage ? 'HTTP/1.1 400 Bad Request\r\n\r\n' : answer(header(bytes).transaction)),
      )
    },
    connections: () => connections,
  }
}

async function against(
  serve: Parameters<typeof rawServer>[0],
  work: (exchange: Exchange<TcpAsk>) => Promise<void>,
): Promise<void> {
  const server = await rawServer(serve)
  const exchange = new Exchange(
    tcpTransport(server.host, server.port),
    modbusTcp(() => 1),
    timing,
  )
  try {
    await work(exchange)
  } finally {
    exchange.close()
    await server.stop()
  }
}

describe('an exchange with a device', () => {
  test('a device that closes at once', async () => {
    await against(
      (socket) => socket.on('data', () => socket.destroy()),
      async (exchange) => expect(await exchange.ask(ask)).toMatchObject({ kind: 'closed' }),
    )
  })

  test('a device that answers garbage is told as such, and asked afresh the next time', async () => {
    const device = garbageFirst()
    await against(device.serve, async (exchange) => {
      expect(await exchange.ask(ask)).toMatchObject({
        kind: 'rejected',
        rejection: { reason: 'wrong-protocol' },
      })
      expect(await exchange.ask(ask)).toMatchObject({ kind: 'answered' })
      expect(device.connections()).toBe(2)
    })
  })

  test('nobody listens on the port', async () => {
    const server = await rawServer(() => undefined)
    await server.stop()
    const exchange = new Exchange(tcpTransport(server.host, server.port), modbusTcp(), timing)
    const outcome = await exchange.ask(ask)
    exchange.close()
    expect(outcome).toMatchObject({
      kind: 'no-connection',
      reason: expect.stringMatching(/nothing listens on this port/),
    })
  })

  const busyFor = (milliseconds: number) => {
    const end = performance.now() + milliseconds
    while (performance.now() < end) Math.sqrt(end)
  }
  const foreign = Uint8Array.from([3, 4, 0xde, 0xad, 0xbe, 0xef])

  test.each<[string, (transaction: number) => readonly Uint8Array[]]>([
    ['in the same packet', (now) => [Buffer.concat([answer(now), encodeTcpFrame(now + 1, 1, foreign)])]],
    ['in a packet of its own', (now) => [answer(now), encodeTcpFrame(now + 1, 1, foreign)]],
    ['three at once', (now) => [answer(now), ...[1, 2, 3].map((k) => encodeTcpFrame(now + k, 1, foreign))]],
    [
      'half of it, the rest with the next answer',
      (now) => [Buffer.concat([answer(now), encodeTcpFrame(now + 1, 1, foreign).slice(0, 9)])],
    ],
  ])(
    'a device that sends a packet too many, %s, never has its value shown for another question',
    async (_what, reply) => {
      let rest: Uint8Array | undefined
      await against(
        (socket) => {
          socket.setNoDelay(true)
          socket.on('data', (bytes) => {
            const { transaction } = header(bytes)
            if (rest) socket.write(rest)
            for (const packet of reply(transaction)) socket.write(packet)
            const [first] = reply(transaction)
            const whole = Buffer.concat([answer(transaction), encodeTcpFrame(transaction + 1, 1, foreign)])
            rest = first && first.length > 13 && first.length < whole.length ? whole.subarray(first.length) : undefined
          })
        },
        async (exchange) => {
          for (let k = 0; k < 48; k += 1) {
            const outcome = await exchange.ask(ask)
            // The next number is foreseen here, so that only what came before the question is told apart by time.
            expect(outcome).toMatchObject({ kind: 'answered', response: { words: [0x3f80, 0] } })
            if (k % 3 === 0) await pause(1)
          }
          expect(exchange.droppedCount).toBeGreaterThanOrEqual(47)
        },
      )
    },
  )

  test('transaction numbers cannot be foreseen, and none comes twice within 256', () => {
    const numbers = new TransactionNumbers()
    const drawn = Array.from({ length: 2_000 }, () => numbers.next())
    drawn.forEach((number, k) => expect(drawn.slice(Math.max(0, k - 255), k)).not.toContain(number))
    const steps = drawn.slice(1).filter((number, k) => number === (drawn[k] ?? 0) + 1)
    expect(steps.length).toBeLessThan(10)
    expect(Math.max(...drawn)).toBeGreaterThan(50_000)
    const always = new TransactionNumbers(() => 65_535)
    expect([always.next(), always.next(), always.next()]).toEqual([65_535, 0, 1])
  })

  test.each([
    ['while the answer is on its way', 10],
    ['at once after asking', 0],
  ])('a healthy device is not called silent because this program was busy: %s', async (_what, after) => {
    await against(
      (socket) => socket.on('data', (bytes) => setTimeout(() => socket.write(answer(header(bytes).transaction)), 40)),
      async (exchange) => {
        const outcome = exchange.ask(ask)
        await pause(after)
        busyFor(700)
        expect(await outcome).toMatchObject({ kind: 'answered' })
        const again = exchange.ask(ask)
        busyFor(300)
        await pause(5)
        busyFor(300)
        expect(await again).toMatchObject({ kind: 'answered' })
      },
    )
  })

  test('a request that nobody wants any more is given up while it is on its way, and its answer is dropped', async () => {
    let asked = 0
    await against(
      (socket) =>
        socket.on('data', (bytes) => {
          asked += 1
          setTimeout(() => socket.write(answer(header(bytes).transaction)), asked === 1 ? 60 : 1)
        }),
      async (exchange) => {
        const stop = new AbortController()
        const first = exchange.ask(ask, stop.signal)
        await pause(20)
        stop.abort()
        expect((await first).kind).toBe('cancelled')
        expect(await exchange.ask(ask)).toMatchObject({ kind: 'answered' })
        await pause(80)
        expect(exchange.droppedCount).toBe(1)
      },
    )
  })

  test('whoever waits behind a broken frame is asked on a new connection', async () => {
    const device = garbageFirst()
    await against(device.serve, async (exchange) => {
      const [first, second, third] = await Promise.all([1, 2, 3].map(() => exchange.ask(ask)))
      expect([first?.kind, second?.kind, third?.kind]).toEqual(['rejected', 'answered', 'answered'])
    })
  })

  test('an answer of another unit, or to a transaction nobody asked, is rejected', async () => {
    let strange = false
    await against(
      (socket) =>
        socket.on('data', (bytes) => {
          const { transaction } = header(bytes)
          socket.write(
            strange
              ? encodeTcpFrame(transaction + 77, 1, Uint8Array.from(right))
              : encodeTcpFrame(transaction, 2, Uint8Array.from(right)),
          )
        }),
      async (exchange) => {
        const wrongUnit = await exchange.ask(ask)
        expect(wrongUnit).toMatchObject({
          kind: 'rejected',
          rejection: { reason: 'wrong-unit', found: '2', expected: '1' },
        })
        if (wrongUnit.kind === 'rejected') expect(explainOutcome(wrongUnit).hint).toMatch(/unit id/)
        strange = true
        expect(await exchange.ask(ask)).toMatchObject({
          kind: 'rejected',
          rejection: { reason: 'wrong-transaction' },
        })
      },
    )
  })
})

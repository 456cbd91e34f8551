import { setTimeout as pause } from 'node:timers/promises'
import { decodeTcpFrame, encodeTcpFrame, hexText, protocolAddress, tcpUnit } from '@calm/core/modbus'
import { rawServer } from '../fixtures'
import { Exchange } from './exchange'
import { explainOutcome } from './outcome'

const ask = { code: 3 as const, address: protocolAddress(0), count: 2 }
const timing = { connectTimeoutMs: 500, responseTimeoutMs: 150, idleMs: 5_000 }
const unit = tcpUnit(1)
const right = [3, 4, 0x3f, 0x80, 0, 0]

/** Parts of the request that arrived, so that an answer can be made to fit or not. */
const header = (bytes: Buffer) => {
  const frame = decodeTcpFrame(bytes)
  if (!frame.ok) throw new Error(frame.refusal.what)
  return frame.value
}

async function against(
  serve: Parameters<typeof rawServer>[0],
  work: (exchange: Exchange) => Promise<void>,
): Promise<void> {
  const server = await rawServer(serve)
  const exchange = new Exchange({ host: server.host, port: server.port, ...timing })
  try {
    await work(exchange)
  } finally {
    exchange.close()
    await server.stop()
  }
}

describe('an exchange with a device', () => {
  test('a right answer is a value, with the bytes and the time it took', async () => {
    await against(
      (socket) =>
        socket.on('data', (bytes) =>
          socket.write(encodeTcpFrame(header(bytes).transaction, 1, Uint8Array.from(right))),
        ),
      async (exchange) => {
        const outcome = await exchange.ask(unit, ask)
        expect(outcome).toMatchObject({
          kind: 'answered',
          response: { kind: 'words', words: [0x3f80, 0] },
          trace: { sent: '00 01 00 00 00 06 01 03 00 00 00 02' },
        })
        expect(outcome.trace.milliseconds).toBeGreaterThan(0)
      },
    )
  })

  test('a device that never answers: nothing, after the response timeout', async () => {
    await against(
      () => undefined,
      async (exchange) => {
        const outcome = await exchange.ask(unit, ask)
        expect(outcome).toMatchObject({ kind: 'no-answer', reason: 'Nothing answered within 150 ms.' })
      },
    )
  })

  test('a device that closes at once', async () => {
    await against(
      (socket) => socket.on('data', () => socket.destroy()),
      async (exchange) => expect(await exchange.ask(unit, ask)).toMatchObject({ kind: 'closed' }),
    )
  })

  test('a device that answers garbage is told as such, and asked afresh the next time', async () => {
    let connections = 0
    await against(
      (socket) => {
        connections += 1
        const garbage = connections === 1
        socket.on('data', (bytes) =>
          socket.write(
            garbage
              ? 'HTTP/1.1 400 Bad Request\r\n\r\n'
              : encodeTcpFrame(header(bytes).transaction, 1, Uint8Array.from(right)),
          ),
        )
      },
      async (exchange) => {
        expect(await exchange.ask(unit, ask)).toMatchObject({
          kind: 'rejected',
          rejection: { reason: 'wrong-protocol' },
        })
        expect(await exchange.ask(unit, ask)).toMatchObject({ kind: 'answered' })
        expect(connections).toBe(2)
      },
    )
  })

  test('nobody listens on the port', async () => {
    const server = await rawServer(() => undefined)
    await server.stop()
    const exchange = new Exchange({ host: server.host, port: server.port, ...timing })
    const outcome = await exchange.ask(unit, ask)
    exchange.close()
    expect(outcome).toMatchObject({
      kind: 'no-connection',
      reason: expect.stringMatching(/nothing listens on this port/),
    })
  })

  test('an answer that comes too late never becomes the value of the next request', async () => {
    let count = 0
    await against(
      (socket) =>
        socket.on('data', (bytes) => {
          count += 1
          const { transaction } = header(bytes)
          const reply = encodeTcpFrame(
            transaction,
            1,
            Uint8Array.from(count === 1 ? [3, 4, 0xde, 0xad, 0xbe, 0xef] : right),
          )
          if (count === 1) setTimeout(() => socket.write(reply), 220)
          else setTimeout(() => socket.write(reply), 120)
        }),
      async (exchange) => {
        expect(await exchange.ask(unit, ask)).toMatchObject({ kind: 'no-answer' })
        expect(await exchange.ask(unit, ask)).toMatchObject({ kind: 'answered', response: { words: [0x3f80, 0] } })
        expect(exchange.droppedCount).toBe(1)
      },
    )
  })

  test('an answer of another unit, or to a transaction nobody asked, is rejected', async () => {
    let foreign = false
    await against(
      (socket) =>
        socket.on('data', (bytes) => {
          const { transaction } = header(bytes)
          socket.write(
            foreign
              ? encodeTcpFrame(transaction + 77, 1, Uint8Array.from(right))
              : encodeTcpFrame(transaction, 2, Uint8Array.from(right)),
          )
        }),
      async (exchange) => {
        const wrongUnit = await exchange.ask(unit, ask)
        expect(wrongUnit).toMatchObject({
          kind: 'rejected',
          rejection: { reason: 'wrong-unit', found: '2', expected: '1' },
        })
        if (wrongUnit.kind === 'rejected') expect(explainOutcome(wrongUnit).hint).toMatch(/unit id/)
        foreign = true
        expect(await exchange.ask(unit, ask)).toMatchObject({
          kind: 'rejected',
          rejection: { reason: 'wrong-transaction' },
        })
      },
    )
  })

  test('requests on one connection go strictly one after the other', async () => {
    let open = 0
    let most = 0
    await against(
      (socket) =>
        socket.on('data', (bytes) => {
          open += 1
          most = Math.max(most, open)
          const { transaction } = header(bytes)
          setTimeout(() => {
            open -= 1
            socket.write(encodeTcpFrame(transaction, 1, Uint8Array.from(right)))
          }, 5)
        }),
      async (exchange) => {
        const outcomes = await Promise.all(Array.from({ length: 20 }, () => exchange.ask(unit, ask)))
        expect(outcomes.every((outcome) => outcome.kind === 'answered')).toBe(true)
        expect(most).toBe(1)
      },
    )
  })

  test('cancelled while it waits, and closed while it is asked', async () => {
    await against(
      () => undefined,
      async (exchange) => {
        const stop = new AbortController()
        const first = exchange.ask(unit, ask)
        const second = exchange.ask(unit, ask, stop.signal)
        stop.abort()
        await pause(20)
        exchange.close()
        expect((await first).kind).toBe('cancelled')
        expect((await second).kind).toBe('cancelled')
      },
    )
  })

  test('a frame that comes in single bytes is put together', async () => {
    await against(
      (socket) =>
        socket.on('data', async (bytes) => {
          for (const byte of encodeTcpFrame(header(bytes).transaction, 1, Uint8Array.from(right))) {
            socket.write(Uint8Array.of(byte))
            await pause(2)
          }
        }),
      async (exchange) => {
        const outcome = await exchange.ask(unit, ask)
        expect(outcome.kind === 'answered' && outcome.trace.received).toBe(
          hexText(Uint8Array.from([0, 1, 0, 0, 0, 7, 1, ...right])),
        )
      },
    )
  })
})

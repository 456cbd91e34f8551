/**
 * What may go wrong between a question and its answer, over every carrier: TCP, and a serial line of two pseudo
 * terminals. Nothing of it ever becomes a value.
 */
import { setTimeout as pause } from 'node:timers/promises'
import { carriers, TIMING, type Carrier, type RawDevice } from './fixtures'

const right = [3, 4, 0x3f, 0x80, 0, 0]
const foreign = [3, 4, 0xde, 0xad, 0xbe, 0xef]
const good = { kind: 'answered', response: { kind: 'words', words: [0x3f80, 0] } }

/** After a while the first question is answered with what belongs to nobody, each later one rightly. */
function foreignFirst(answer: Carrier['answer'], before: (device: RawDevice, frame: Uint8Array) => void = () => {}) {
  let count = 0
  return (device: RawDevice) =>
    device.onRequest((frame) => {
      count += 1
      const isFirst = count === 1
      if (isFirst) before(device, frame)
      setTimeout(() => device.write(answer(frame, isFirst ? foreign : right)), 60)
    })
}

describe.each(carriers.map((carrier) => [carrier.name, carrier] as const))('%s', (_name, { against, answer }) => {
  test('a right answer is a value, with its bytes and the time it took', async () => {
    await against(
      (device) => device.onRequest((frame) => device.write(answer(frame, right))),
      async ({ ask }) => {
        const outcome = await ask()
        expect(outcome).toMatchObject(good)
        expect(outcome.trace.sent).toMatch(/01 03 00 00 00 02/)
        expect(outcome.trace.received).toMatch(/01 03 04 3F 80 00 00/)
        expect(outcome.trace.milliseconds).toBeGreaterThan(0)
      },
    )
  })

  test('a device that never answers, and one that answers again afterwards', async () => {
    let count = 0
    await against(
      (device) => device.onRequest((frame) => (count += 1) > 1 && device.write(answer(frame, right))),
      async ({ ask }) => {
        expect(await ask()).toMatchObject({
          kind: 'no-answer',
          reason: `Nothing answered within ${TIMING.responseTimeoutMs} ms.`,
        })
        expect(await ask()).toMatchObject(good)
      },
    )
  })

  test('an answer that comes too late never becomes the value of the next request', async () => {
    let count = 0
    let sayLate: () => void = () => undefined
    await against(
      (device) =>
        device.onRequest((frame) => {
          count += 1
          if (count === 1) sayLate = () => device.write(answer(frame, foreign))
          else setTimeout(() => device.write(answer(frame, right)), 60)
        }),
      async ({ ask, dropped }) => {
        expect(await ask()).toMatchObject({ kind: 'no-answer' })
        const second = ask()
        sayLate()
        expect(await second).toMatchObject(good)
        expect(dropped()).toBe(1)
      },
    )
  })

  test('bytes that make no frame are told as such, and the next question is asked afresh', async () => {
    let count = 0
    await against(
      (device) =>
        device.onRequest((frame) => {
          count += 1
          device.write(count === 1 ? Buffer.from('HTTP/1.1 400 Bad Request\r\n\r\n') : answer(frame, right))
        }),
      async ({ ask }) => {
        expect((await ask()).kind).toBe('rejected')
        expect(await ask()).toMatchObject(good)
      },
    )
  })

  test('an answer of another unit, of another function, with a wrong length', async () => {
    const wrong = [
      { pdu: right, unit: 2, reason: 'wrong-unit' },
      { pdu: [4, 4, 0x3f, 0x80, 0, 0], unit: 1, reason: 'wrong-function' },
      { pdu: [3, 2, 0x3f, 0x80], unit: 1, reason: 'wrong-byte-count' },
    ]
    let count = 0
    await against(
      (device) =>
        device.onRequest((frame) => {
          const { pdu, unit } = wrong[count] ?? { pdu: right, unit: 1 }
          count += 1
          device.write(answer(frame, pdu, unit))
        }),
      async ({ ask }) => {
        for (const { reason } of wrong) expect(await ask()).toMatchObject({ kind: 'rejected', rejection: { reason } })
        expect(await ask()).toMatchObject(good)
      },
    )
  })

  test('the right answer after a wrong one is not that of the next question', async () => {
    await against(
      foreignFirst(answer, (device, frame) => device.write(answer(frame, right, 2))),
      async ({ ask, dropped }) => {
        expect(await ask()).toMatchObject({ kind: 'rejected', rejection: { reason: 'wrong-unit' } })
        expect(await ask()).toMatchObject(good)
        expect(dropped()).toBe(1)
      },
    )
  })

  test('an exception is an answer, never a value', async () => {
    await against(
      (device) => device.onRequest((frame) => device.write(answer(frame, [0x83, 2]))),
      async ({ ask }) =>
        expect(await ask()).toMatchObject({ kind: 'answered', response: { kind: 'exception', exception: 2 } }),
    )
  })

  test('a device that says too much never has its value shown for another question', async () => {
    await against(
      (device) =>
        device.onRequest((frame) => {
          // In one go: what comes on a serial line after its silence cannot be told from an answer to the next question.
          device.write(Uint8Array.from([...answer(frame, right), ...answer(frame, foreign)]))
        }),
      async ({ ask }) => {
        for (let k = 0; k < 12; k += 1) {
          const outcome = await ask()
          if (outcome.kind === 'answered') expect(outcome).toMatchObject(good)
          else expect(['rejected', 'no-answer']).toContain(outcome.kind)
        }
      },
    )
  })

  test('a second device at the same address, a little slower: its answer is not that of the next question', async () => {
    let count = 0
    await against(
      (device) =>
        device.onRequest((frame) => {
          count += 1
          if (count > 1) return void setTimeout(() => device.write(answer(frame, right)), 40)
          device.write(answer(frame, right))
          setTimeout(() => device.write(answer(frame, foreign)), 5)
        }),
      async ({ ask, dropped }) => {
        // Where nothing tells the two apart, neither is told.
        const first = await ask()
        if (_name === 'Modbus TCP') expect(first).toMatchObject(good)
        else expect(first).toMatchObject({ kind: 'no-answer', reason: expect.stringContaining('could not be told') })
        expect(await ask()).toMatchObject(good)
        expect(dropped()).toBe(1)
      },
    )
  })

  test('a device that greets with something of its own: the question is answered or refused, never left hanging', async () => {
    let connections = 0
    await against(
      (device) => {
        connections += 1
        device.onRequest((frame) => device.write(answer(frame, right)))
        if (connections === 1) device.write(Buffer.from('220 welcome to this unit\r\n'))
      },
      async ({ ask }) => {
        expect((await ask()).kind).toMatch(/answered|rejected|no-answer/)
        await pause(60)
        expect(await ask()).toMatchObject(good)
      },
    )
  })

  test('a frame that comes in single bytes is put together', async () => {
    await against(
      (device) =>
        device.onRequest(async (frame) => {
          for (const byte of answer(frame, right)) {
            device.write(Uint8Array.of(byte))
            await pause(2)
          }
        }),
      async ({ ask }) => expect(await ask()).toMatchObject(good),
    )
  })

  test('questions go strictly one after the other', async () => {
    let open = 0
    let most = 0
    await against(
      (device) =>
        device.onRequest((frame) => {
          open += 1
          most = Math.max(most, open)
          setTimeout(() => {
            open -= 1
            device.write(answer(frame, right))
          }, 5)
        }),
      async ({ ask }) => {
        const outcomes = await Promise.all(Array.from({ length: 10 }, () => ask()))
        expect(outcomes.every((outcome) => outcome.kind === 'answered')).toBe(true)
        expect(most).toBe(1)
      },
    )
  })

  test('a healthy device is not called silent because this program was busy', async () => {
    await against(
      (device) => device.onRequest((frame) => setTimeout(() => device.write(answer(frame, right)), 40)),
      async ({ ask }) => {
        const outcome = ask()
        await pause(10)
        const end = performance.now() + 600
        while (performance.now() < end) Math.sqrt(end)
        expect(await outcome).toMatchObject(good)
      },
    )
  })

  test('given up while it is asked: its answer, right after, is not that of the next question', async () => {
    await against(foreignFirst(answer), async ({ ask, dropped }) => {
      const stop = new AbortController()
      const first = ask(stop.signal)
      await pause(40)
      stop.abort()
      expect((await first).kind).toBe('cancelled')
      expect(await ask()).toMatchObject(good)
      expect(dropped()).toBe(1)
    })
  })

  test('given up while it waits, and closed while it is asked', async () => {
    await against(
      () => undefined,
      async ({ ask, close }) => {
        const stop = new AbortController()
        const first = ask()
        const second = ask(stop.signal)
        stop.abort()
        await pause(20)
        close()
        expect([(await first).kind, (await second).kind]).toEqual(['cancelled', 'cancelled'])
      },
    )
  })
})

describe('Modbus TCP alone', () => {
  const { against, answer } = carriers.find(({ name }) => name === 'Modbus TCP') as Carrier

  test.each(['220 welcome to this unit\r\n', 'OK\r\n', '\xff\xfb\x01\xff\xfd\x03\xff\xfb\x03'])(
    'a device that greets on every connection with %j gives values, and its greeting is counted',
    async (greeting) => {
      await against(
        (device) => {
          device.onRequest((frame) => device.write(answer(frame, right)))
          device.write(Buffer.from(greeting, 'latin1'))
        },
        async ({ ask, dropped }) => {
          // Where greeting and answer come in one piece, the first question is lost to it.
          expect((await ask()).kind).toMatch(/answered|rejected/)
          for (let turn = 0; turn < 4; turn += 1) expect(await ask()).toMatchObject(good)
          expect(dropped()).toBe(1)
        },
      )
    },
  )
})

describe('Modbus RTU alone', () => {
  const { against, answer } = carriers.find(({ name }) => name.startsWith('Modbus RTU')) as Carrier

  test('a value read beside a frame that nobody asked for says so; a plain silence does not make the next one unsure', async () => {
    let count = 0
    await against(
      (device) =>
        device.onRequest((frame) => {
          count += 1
          if (count === 2) return
          device.write(answer(frame, right))
          // After the fourth answer one more comes that nobody asked for.
          if (count === 4) setTimeout(() => device.write(answer(frame, foreign)), 60)
        }),
      async ({ ask, dropped }) => {
        expect((await ask()).trace.unsure).toBeUndefined()
        expect((await ask()).kind).toBe('no-answer')
        const confirmed = await ask()
        expect(confirmed).toMatchObject(good)
        expect(confirmed.trace.unsure).toBeUndefined()
        await pause(200)
        const after = await ask()
        expect(dropped()).toBeGreaterThan(0)
        expect(after.trace.unsure).toMatch(
          /^On this line answers came late, twice or unasked within the last 10 s: \d+ dropped so far, \d+ readings? lost/,
        )
      },
    )
  })
})

/**
 * Serial devices that do what they must not: late, twice, unasked, always one behind, half, garbled, as another unit.
 * Each register holds its own number, so that the value of another one shows. The line is one of memory, with the times
 * of a real one divided by ten. Invented faults, no source.
 */
import { decodeRtuFrame, encodeRtuFrame, protocolAddress, serialUnit } from '@calm/core/modbus'
import type { SerialSettings } from '@calm/core/serial'
import { Exchange } from './exchange'
import { modbusRtu } from './modbusRtu'
import type { OpenTransport } from './transport'

jest.setTimeout(60_000)

const LINE: SerialSettings = { baudRate: 115_200, dataBits: 8, parity: 'none', stopBits: 1 }
const TIMEOUT_MS = 40
const TIMING = { connectTimeoutMs: 100, responseTimeoutMs: TIMEOUT_MS, idleMs: 60_000 }
const READINGS = Number(process.env.ODD_READINGS ?? 9)

type Say = (frame: Uint8Array, afterMs: number) => void
/** What a device does with its answer to a question. `before` is its answer to the question before. */
type Oddity = (answer: Uint8Array, say: Say, before: Uint8Array | undefined, count: number) => void

/** Every seventh question is answered oddly, the others rightly: a device that is always odd is found at once. */
const nowAndThen =
  (odd: Oddity): Oddity =>
  (answer, say, before, count) =>
    count % 7 === 2 ? odd(answer, say, before, count) : say(answer, 2)

const oddities: Readonly<Record<string, Oddity>> = {
  ...Object.fromEntries(
    [0.5, 1.1, 1.5, 2.1, 3, 4].flatMap((late): readonly (readonly [string, Oddity])[] => [
      [`late by ${late} s`, nowAndThen((answer, say) => say(answer, late * TIMEOUT_MS))],
      [`always late by ${late} s`, (answer, say) => say(answer, late * TIMEOUT_MS)],
    ]),
  ),
  'always one answer behind': (_answer, say, before) => before && say(before, 2),
  half: nowAndThen((answer, say) => say(answer.subarray(0, 5), 2)),
  'half, the rest late': nowAndThen((answer, say) => {
    say(answer.subarray(0, 5), 2)
    say(answer.subarray(5), 60)
  }),
  garbage: nowAndThen((_answer, say) => say(Uint8Array.of(1, 3, 9, 9, 9, 9), 2)),
  'another unit': nowAndThen((answer, say) => say(encodeRtuFrame(7, answer.subarray(1, -2)), 2)),
  'another unit, then itself': nowAndThen((answer, say) => {
    say(encodeRtuFrame(7, answer.subarray(1, -2)), 2)
    say(answer, 45)
  }),
  silent: nowAndThen(() => undefined),
  'silent, then two at once': (answer, say, before, count) => {
    if (count % 4 === 0) return
    if (count % 4 === 1 && before) say(before, 1)
    say(answer, 30)
  },
  'one more that nobody asked for': (answer, say, before, count) => {
    say(answer, 2)
    if (count % 5 === 4 && before) say(before, 9)
  },
}

/** A line of memory with one odd unit on it. */
function oddLine(odd: Oddity): OpenTransport {
  return (events) => {
    const timers = new Set<NodeJS.Timeout>()
    let count = 0
    let before: Uint8Array | undefined
    let isClosed = false
    const say: Say = (frame, afterMs) => {
      const timer = setTimeout(() => {
        timers.delete(timer)
        if (!isClosed) events.bytes(frame)
      }, afterMs)
      timers.add(timer)
    }
    setImmediate(() => events.opened())
    return {
      send: (bytes) => {
        const frame = decodeRtuFrame(bytes)
        if (!frame.ok) throw new Error(frame.refusal.what)
        const answer = encodeRtuFrame(frame.value.unit, answerTo(frame.value.pdu))
        odd(answer, say, before, count)
        before = answer
        count += 1
      },
      close: () => {
        isClosed = true
        for (const timer of timers) clearTimeout(timer)
      },
    }
  }
}

/** Each register holds its own number; a function that it does not know is refused. */
function answerTo(pdu: Uint8Array): Uint8Array {
  const [code = 0] = pdu
  if (code !== 3) return Uint8Array.of(code | 0x80, 1)
  const [first, count] = [((pdu[1] ?? 0) << 8) | (pdu[2] ?? 0), ((pdu[3] ?? 0) << 8) | (pdu[4] ?? 0)]
  const words = Array.from({ length: count }, (_, k) => first + k)
  return Uint8Array.of(3, 2 * count, ...words.flatMap((word) => [word >> 8, word & 255]))
}

/** The protocol with the silence of a short line: its times divided as those of the devices are. */
const protocol = () => ({ ...modbusRtu(LINE), gapMs: 3, quietMs: 3 })

test.each(Object.entries(oddities))('%s: no value of another register is ever shown', async (name, odd) => {
  const exchange = new Exchange(oddLine(odd), protocol(), TIMING)
  let [right, wrong, lost] = [0, 0, 0]
  for (let k = 0; k < READINGS; k += 1) {
    // Questions look alike: the same unit, function and count, another register each time; one register now and then.
    const [first, count] = [100 + k * 2, k % 7 === 6 ? 1 : 2]
    const outcome = await exchange.ask({
      unit: serialUnit(1),
      request: { code: 3, address: protocolAddress(first), count },
    })
    if (outcome.kind !== 'answered' || outcome.response.kind !== 'words') lost += 1
    else if (outcome.response.words.every((word, n) => word === first + n)) right += 1
    else wrong += 1
  }
  exchange.close()
  expect({ name, wrong, all: right + wrong + lost }).toEqual({ name, wrong: 0, all: READINGS })
  // A device that answers rightly now and then is not given up altogether.
  if (/^(always|silent,|one more)/.test(name)) return
  expect({ name, isRead: right > 0, right, lost }).toMatchObject({ isRead: true })
})

test('a line that was in doubt is believed again once question and answer were in step', async () => {
  const exchange = new Exchange(
    oddLine((answer, say, _before, count) => count > 0 && say(answer, 2)),
    protocol(),
    TIMING,
  )
  const ask = () => exchange.ask({ unit: serialUnit(1), request: { code: 3, address: protocolAddress(5), count: 2 } })
  expect((await ask()).kind).toBe('no-answer')
  const sent: string[] = []
  for (let k = 0; k < 3; k += 1) sent.push((await ask()).trace.sent)
  exchange.close()
  expect(new Set(sent)).toEqual(new Set([sent[0]]))
  expect(exchange.doubtfulCount).toBe(0)
})

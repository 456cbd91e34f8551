/** Line formats judged by a transmitter and a receiver of bits, written here: they know nothing of the rules. */
import { judgeFormats, lineSettingsText, type Parity, type SerialSettings, type Variant } from '.'

const STEPS = 8

const parityBit = (byte: number, bits: number, parity: Parity): number => {
  let ones = 0
  for (let bit = 0; bit < bits; bit += 1) ones += (byte >> bit) & 1
  return parity === 'even' ? ones & 1 : 1 - (ones & 1)
}

/** The level of the line, eight steps a bit; characters without a pause between them. */
function transmit(bytes: readonly number[], { dataBits, parity, stopBits }: SerialSettings): readonly number[] {
  const bits: number[] = [1, 1]
  for (const byte of bytes) {
    bits.push(0)
    for (let bit = 0; bit < dataBits; bit += 1) bits.push((byte >> bit) & 1)
    if (parity !== 'none') bits.push(parityBit(byte, dataBits, parity))
    for (let stop = 0; stop < stopBits; stop += 1) bits.push(1)
  }
  return [...bits, ...Array<number>(24).fill(1)].flatMap((level) => Array<number>(STEPS).fill(level))
}

/** @param looksAtBoth whether it looks for the second stop bit too; `undefined` in the list is a damaged character */
function receive(
  line: readonly number[],
  settings: SerialSettings,
  looksAtBoth: boolean,
): readonly (number | undefined)[] {
  const { dataBits, parity, stopBits } = settings
  const heard: (number | undefined)[] = []
  let step = 1
  while (step < line.length) {
    if (!(line[step - 1] === 1 && line[step] === 0)) {
      step += 1
      continue
    }
    // In the middle of each bit, counted from the edge of the start bit.
    const bit = (count: number) => line[step + count * STEPS + STEPS / 2] ?? 1
    let byte = 0
    for (let count = 0; count < dataBits; count += 1) byte |= bit(1 + count) << count
    const hasParity = parity === 'none' ? 0 : 1
    const good =
      (parity === 'none' || bit(1 + dataBits) === parityBit(byte, dataBits, parity)) &&
      bit(1 + dataBits + hasParity) === 1 &&
      (!looksAtBoth || stopBits === 1 || bit(2 + dataBits + hasParity) === 1)
    heard.push(good ? byte : undefined)
    // A receiver goes on looking for an edge from the middle of its first stop bit, or of its last where it looks there.
    const last = 1 + dataBits + hasParity + (looksAtBoth ? stopBits - 1 : 0)
    step += last * STEPS + STEPS / 2
  }
  return heard
}

const formats = ([7, 8] as const).flatMap((dataBits) =>
  (['none', 'even', 'odd'] as const).flatMap((parity) =>
    ([1, 2] as const).map((stopBits): SerialSettings => ({ baudRate: 9600, dataBits, parity, stopBits })),
  ),
)
const pairs = formats.flatMap((one) =>
  formats.map((other) => [lineSettingsText(one), lineSettingsText(other), one, other] as const),
)
/** All that seven bits can say: whatever passes must pass with each of them. */
const BYTES = Array.from({ length: 128 }, (_, index) => (index * 53) % 128)
const passes = (from: SerialSettings, to: SerialSettings, looksAtBoth: boolean) =>
  JSON.stringify(receive(transmit(BYTES, from), to, looksAtBoth)) === JSON.stringify(BYTES)

const verdictOf = (one: SerialSettings, other: SerialSettings, variant: Variant = 'ascii') =>
  judgeFormats(one, other, variant).map(({ verdict }) => verdict)

test.each(pairs)(
  '%s with %s: what is said to pass passes, and what is said never to does not',
  (_a, _b, one, other) => {
    // The easy receiver is what decides between never and sometimes.
    const both = passes(one, other, false) && passes(other, one, false)
    expect(both).toBe(!verdictOf(one, other).includes('never'))
  },
)

test('stop bits: two into one always; one into two only where the second is not looked for', () => {
  const [one, two] = (['8E1', '8E2'] as const).map((short) =>
    formats.find((each) => lineSettingsText(each) === `9600 ${short}`),
  )
  if (!one || !two) throw new Error('no such formats')
  expect([passes(two, one, true), passes(one, two, false), passes(one, two, true)]).toEqual([true, true, false])
  expect(judgeFormats(one, two, 'rtu')).toMatchObject([{ id: 'stop-bits', verdict: 'worth-knowing' }])
})

test('another rate: never, whatever else agrees', () => {
  const at = (baudRate: number): SerialSettings => ({ baudRate, dataBits: 8, parity: 'even', stopBits: 1 })
  expect(judgeFormats(at(9600), at(19_200), 'rtu')).toMatchObject([{ id: 'rate', verdict: 'never' }])
})

test('a rate that both ends have and nobody else does is worth knowing', () => {
  const odd: SerialSettings = { baudRate: 31_250, dataBits: 8, parity: 'even', stopBits: 1 }
  expect(judgeFormats(odd, odd, 'rtu')).toMatchObject([{ id: 'unusual-rate', verdict: 'worth-knowing' }])
})

// Modbus over Serial Line V1.02: RTU has 8 data bits, ASCII 7; without parity a second stop bit takes its place.
test.each<[string, Variant, readonly string[]]>([
  ['8E1', 'rtu', []],
  ['8N2', 'rtu', []],
  ['8N1', 'rtu', ['no-parity-stop worth-knowing']],
  ['7E1', 'rtu', ['variant-bits never']],
  ['7E1', 'ascii', []],
  ['8O1', 'ascii', []],
])('%s at both ends, Modbus %s', (short, variant, found) => {
  const each = formats.find((format) => lineSettingsText(format) === `9600 ${short}`)
  if (!each) throw new Error(short)
  expect(judgeFormats(each, each, variant).map(({ id, verdict }) => `${id} ${verdict}`)).toEqual(found)
})

import fc from 'fast-check'
import {
  addressOf,
  copyTrouble,
  mapImage,
  pagesOf,
  piecesOf,
  piecesText,
  placeText,
  rebuilt,
  type Channel,
  type MappedChannel,
  type Module,
  type PackingRule,
} from '.'

const bits = (count: number): readonly Channel[] =>
  Array.from({ length: count }, (_, k) => ({ name: `bit ${k}`, bits: 1 }))
const words = (count: number): readonly Channel[] =>
  Array.from({ length: count }, (_, k) => ({ name: `channel ${k + 1}`, bits: 16 }))
const head = { inputBytes: 0, outputBytes: 0 }
const row: readonly Module[] = [
  { name: 'DI 8', inputs: bits(8), outputs: [] },
  { name: 'AI 2', inputs: words(2), outputs: words(2) },
  { name: 'DO 4', inputs: [], outputs: bits(4) },
]
const of = (channels: readonly MappedChannel[], module: string) =>
  channels.filter((each) => each.module === module).map(placeText)

// Check values, "Maps".
test('bytes packed: inputs and outputs of a small row, and what straddles', () => {
  const { inputs, outputs } = mapImage(row, 'bytes', head)
  expect(of(inputs.channels, 'DI 8')[0]).toBe('word 0 low (byte 0, bit 0)')
  expect(of(inputs.channels, 'AI 2')).toEqual([
    'word 0 high to word 1 low (bytes 1-2)',
    'word 1 high to word 2 low (bytes 3-4)',
  ])
  expect(of(outputs.channels, 'AI 2')).toEqual(['word 0 (bytes 0-1)', 'word 1 (bytes 2-3)'])
  expect(of(outputs.channels, 'DO 4')[0]).toBe('word 2 low (byte 4, bit 0)')
  expect([inputs.bytes, inputs.words, outputs.bytes, outputs.words]).toEqual([5, 3, 5, 3])
  expect(inputs.channels.filter(({ straddles }) => straddles).map(({ name }) => name)).toEqual([
    'channel 1',
    'channel 2',
  ])
})

test('word per module, and values aligned', () => {
  expect(of(mapImage(row, 'words', head).inputs.channels, 'AI 2')[0]).toBe('word 1 (bytes 2-3)')
  expect(mapImage(row, 'words', head).outputs.bytes).toBe(6)
  const mixed: readonly Module[] = [{ name: 'M', inputs: [...bits(3), { name: 'count', bits: 32 }], outputs: [] }]
  expect(of(mapImage(mixed, 'aligned', head).inputs.channels, 'M')[3]).toBe('word 2 low to word 3 high (bytes 4-7)')
  expect(of(mapImage(mixed, 'bytes', head).inputs.channels, 'M')[3]).toBe('word 0 high to word 2 low (bytes 1-4)')
})

// Common practice: 60 words of data are 62 input words with two of status, 61 output words with one of control.
test('status and control words stand in front', () => {
  const block: readonly Module[] = [{ name: 'block', inputs: words(60), outputs: words(60) }]
  const { inputs, outputs } = mapImage(block, 'bytes', { inputBytes: 4, outputBytes: 2 })
  expect([inputs.words, outputs.words]).toEqual([62, 61])
  expect(inputs.channels[0]?.byte).toBe(4)
})

test('behind a module whose size is not known nothing is placed', () => {
  const { inputs, stopsAt } = mapImage(
    [row[0] as Module, { name: 'X', inputs: undefined, outputs: [] }, row[1] as Module],
    'bytes',
    head,
  )
  expect([stopsAt, inputs.bytes]).toEqual(['X', 1])
  expect(mapImage(row, 'bytes', head).stopsAt).toBeUndefined()
})

test('addresses: bits by byte, words by either way of counting', () => {
  const { inputs, outputs } = mapImage(row, 'bytes', head)
  const [bit0, , , bit3] = inputs.channels
  expect(bit0 && addressOf(bit0, 'input', 'bytes')).toBe('%IX0.0')
  expect(bit3 && addressOf(bit3, 'input', 'words')).toBe('%IX0.3')
  const [, second] = outputs.channels
  expect(second && addressOf(second, 'output', 'bytes')).toBe('%QW2')
  expect(second && addressOf(second, 'output', 'words')).toBe('%QW1')
  const straddling = inputs.channels.at(-1)
  expect(straddling && addressOf(straddling, 'input', 'words')).toBe('%IB3 %IB4')
})

const anyModule = fc.record({
  name: fc.constant('m'),
  inputs: fc.array(fc.record({ name: fc.constant('c'), bits: fc.constantFrom(1, 1, 1, 8, 16, 32) }), { maxLength: 6 }),
  outputs: fc.constant([]),
})

test('whatever is plugged, no bit is given twice, rules are kept, and no byte more is asked for than needed', () => {
  fc.assert(
    fc.property(
      fc.array(anyModule, { maxLength: 8 }),
      fc.constantFrom<PackingRule>('bytes', 'words', 'aligned'),
      (modules, rule) => {
        const { inputs } = mapImage(modules, rule, head)
        const taken = new Set<number>()
        for (const { byte, bit, bits: size, straddles } of inputs.channels) {
          for (let k = 0; k < size; k += 1) {
            const place = 8 * byte + bit + k
            expect(taken.has(place)).toBe(false)
            taken.add(place)
          }
          if (size >= 8) expect(bit).toBe(0)
          if (rule === 'aligned' && size >= 8) expect(byte % (size / 8)).toBe(0)
          if (rule === 'aligned') expect(straddles).toBe(false)
        }
        const last = Math.max(-1, ...taken)
        const least = Math.ceil((last + 1) / 8)
        expect(inputs.bytes).toBe(rule === 'words' ? Math.ceil(least / 2) * 2 : least)
      },
    ),
  )
})

test('a value that straddles is put together again as Node reads it from the bytes', () => {
  fc.assert(
    fc.property(
      fc.uint8Array({ minLength: 8, maxLength: 8 }),
      fc.integer({ min: 0, max: 3 }),
      fc.constantFrom(16, 32),
      (bytes, byte, size) => {
        const image = Array.from({ length: 4 }, (_, k) => (bytes[2 * k] ?? 0) + 256 * (bytes[2 * k + 1] ?? 0))
        const channel = { module: 'm', slot: 0, name: 'c', bits: size, byte, bit: 0, straddles: byte % 2 === 1 }
        const buffer = Buffer.from(bytes)
        const low = size === 16 ? buffer.readUInt16LE(byte) : buffer.readUInt32LE(byte)
        const high = size === 16 ? buffer.readUInt16BE(byte) : buffer.readUInt32BE(byte)
        expect(rebuilt(piecesOf(channel, 'low'), image)).toBe(low)
        expect(rebuilt(piecesOf(channel, 'high'), image)).toBe(high)
      },
    ),
  )
  const channel = { module: 'm', slot: 0, name: 'c', bits: 16, byte: 1, bit: 0, straddles: true }
  expect(piecesText(piecesOf(channel, 'low'))).toBe('(word 0 >> 8) + (word 1 & 255) * 256')
})

// Check values: 600 words in blocks of 60, one each 20 ms, take at least 200 ms.
test('pages of an image that one transfer does not carry', () => {
  expect(pagesOf(600, 60, 2, 20)).toEqual({ pages: 10, perSecond: 50, roundMs: 200, transferWords: 62 })
  expect(pagesOf(601, 60, 0, 20)?.pages).toBe(11)
  expect(pagesOf(0, 60, 0, 20)).toBeUndefined()
})

test('copies of many words', () => {
  expect(copyTrouble({ elementBits: 16, length: 60 }, { elementBits: 16, length: 60 })).toBeUndefined()
  expect(copyTrouble({ elementBits: 16, length: 60 }, { elementBits: 32, length: 60 })).toMatch(/lies elsewhere/)
  expect(copyTrouble({ elementBits: 16, length: 62 }, { elementBits: 16, length: 60 })).toMatch(/2 are lost/)
  expect(copyTrouble({ elementBits: 16, length: 50 }, { elementBits: 16, length: 60 })).toMatch(/last 10 keep/)
})

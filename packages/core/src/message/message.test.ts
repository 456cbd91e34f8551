import { execFileSync } from 'node:child_process'
import { crc32 } from 'node:zlib'
import { lineSettingsText, readLineSettings } from '../serial'
import {
  checksums,
  fitsOf,
  hexText,
  judgePoll,
  printed,
  readHex,
  readWord,
  sharedPorts,
  splitAnswer,
  wordsOfBytes,
  type AnswerLayout,
  type CommandPoll,
} from '.'

const digits = [...'123456789'].map((each) => each.charCodeAt(0))

// The catalogue of parametrised CRC algorithms gives the check of "123456789" for each.
test.each([
  ['modbus', '37 4B'],
  ['arc', '3D BB'],
  ['ccitt', '29 B1'],
  ['xmodem', '31 C3'],
  ['crc32', '26 39 F4 CB'],
  ['crc8', 'F4'],
] as const)('%s of "123456789"', (id, check) => {
  expect(hexText(checksums[id].of(digits))).toBe(check)
})

test('CRC-32 beside zlib, and sums by hand', () => {
  for (let length = 0; length < 40; length += 1) {
    const bytes = Array.from({ length }, (_, k) => (k * 37 + 11) & 255)
    const value = crc32(Buffer.from(bytes))
    expect(Buffer.from(checksums.crc32.of(bytes)).readUInt32LE()).toBe(value)
  }
  // 1 + 2 + 0xFF = 0x102: two's complement of 02 is FE.
  expect(hexText(checksums.lrc.of([1, 2, 0xff]))).toBe('FE')
  expect(hexText(checksums.xor.of([1, 2, 0xff]))).toBe('FC')
  expect(hexText(checksums.sum8.of([1, 2, 0xff]))).toBe('02')
  expect(hexText(checksums.sum16.of([1, 2, 0xff]))).toBe('01 02')
  expect(checksums.none.of([1])).toEqual([])
})

test('hexadecimal digits: whole bytes or a reason', () => {
  const hex = (text: string) => {
    const read = readHex(text)
    return read.ok ? hexText(read.value) : read.refusal.what
  }
  expect(hex('3a300D')).toBe('3A 30 0D')
  expect(hex('0x3A, 0x30')).toBe('3A 30')
  expect(hex('3A 3G')).toBe('"G" is no hexadecimal digit; they go from 0 to F.')
  expect(hex('3A 3')).toMatch(/^3 digits do not make whole bytes/)
  expect(hex(' ')).toBe('No bytes are given.')
  expect(printed([0x3a, 0x0d, 0x41])).toBe(':<0D>A')
})

// Check values: a five-byte command fills three words, the last low byte 00, its length still says 5.
test('an odd count is filled where it is said, and its length stays', () => {
  expect(wordsOfBytes([1, 2, 3, 4, 5], 'end')).toEqual({
    words: [0x0102, 0x0304, 0x0500],
    signed: [258, 772, 1280],
    bytes: 5,
    isPadded: true,
  })
  expect(wordsOfBytes([1, 2, 3], 'start').words).toEqual([0x0001, 0x0203])
  // Check values: C350 is -15536, 0A6B is 2667, 8100 is -32512.
  expect(wordsOfBytes([0xc3, 0x50, 0x0a, 0x6b, 0x81, 0x00], 'end')).toMatchObject({
    signed: [-15_536, 2667, -32_512],
    isPadded: false,
  })
})

test('words as people enter them, with how they are meant', () => {
  const word = (text: string) => {
    const read = readWord(text)
    return read.ok ? read.value.meant : read.refusal.what
  }
  expect(word('-15536')).toBe('-15536 is C350, -15536 with a sign, 50000 without one')
  expect(word('2667')).toBe('2667 is 0A6B')
  expect(word('16#8100')).toBe('16#8100 is 8100, -32512 with a sign, 33024 without one')
  expect(word('70000')).toBe('70000 does not fit 16 bits.')
  expect(word('0xG1')).toBe('"0xG1" is no word.')
})

// Check values: 6 + 4n bytes; 42 hold nine fields, 44 none.
test('how many fields a length holds', () => {
  expect(fitsOf(42, 'bytes', 4, 4, 2)).toEqual([{ bytes: 42, fields: 9, isPadded: false }])
  expect(fitsOf(44, 'bytes', 4, 4, 2)).toEqual([])
  // 22 words are 44 bytes or, with a byte of filling, 43: a field of one byte fits both.
  expect(fitsOf(22, 'words', 4, 1, 2).map(({ fields, isPadded }) => [fields, isPadded])).toEqual([
    [38, false],
    [37, true],
  ])
  expect(fitsOf(6, 'bytes', 4, 4, 2)).toEqual([])
})

describe('an answer split by its layout', () => {
  const layout: AnswerLayout = {
    headerBytes: 2,
    fields: [
      { name: 'Flow', format: { type: 'float32', order: 'ABCD' } },
      { name: 'State', format: 'int8' },
      { name: 'Count', format: { type: 'uint16', order: 'ABCD' } },
    ],
    checksum: 'modbus',
    endBytes: 1,
  }
  const body = [0x3a, 0x01, 0x42, 0xf6, 0xe9, 0x79, 0xfe, 0x01, 0x00]
  const answer = [...body, ...checksums.modbus.of(body), 0x0d]

  test('field by field, as Python reads the same bytes', () => {
    const split = splitAnswer(answer, layout)
    expect(split.ok && split.value.fields.map(({ text }) => text)).toEqual(['123.456', '-2', '256'])
    expect(split.ok && [hexText(split.value.header), hexText(split.value.end)]).toEqual(['3A 01', '0D'])
    const script = `import struct;print('%.3f %d %d' % struct.unpack('>2xfbH', bytes.fromhex('${hexText(body)}')))`
    expect(execFileSync('python3', ['-c', script], { encoding: 'utf8' }).trim()).toBe('123.456 -2 256')
  })

  test('a length, a check or a field that does not fit is refused with both numbers', () => {
    const what = (bytes: readonly number[], more: Partial<AnswerLayout> = {}) => {
      const split = splitAnswer(bytes, { ...layout, ...more })
      return split.ok ? 'split' : split.refusal.what
    }
    expect(what(answer.slice(1))).toMatch(/takes 12 bytes .* 11 are here/)
    expect(what(answer.map((byte, k) => (k === 3 ? byte ^ 1 : byte)))).toMatch(
      /^The check is .*; over 9 bytes it should be/,
    )
    const bcd = [{ name: 'Number', format: { type: 'bcd16' as const, order: 'ABCD' as const } }]
    expect(what([0, 0, 0x1a, 0x00], { fields: bcd, checksum: 'none', endBytes: 0 })).toMatch(
      /^Number: 1A00 has a digit above 9/,
    )
  })
})

// Check values, "Gap rule".
test('packets stay apart only where more than the gap is left', () => {
  const settings = readLineSettings('115200 8N1')
  if (!settings.ok) throw new Error(settings.refusal.what)
  expect(lineSettingsText(settings.value)).toBe('115200 8N1')
  const poll: CommandPoll = {
    settings: settings.value,
    pollMs: 20,
    requestBytes: 5,
    answerBytes: 50,
    deviceMs: 0,
    gapMs: 30,
    bufferBytes: 64,
  }
  const merged = judgePoll(poll)
  expect([merged.requestMs, merged.answerMs, merged.leftMs].map((each) => each.toFixed(2))).toEqual([
    '0.43',
    '4.34',
    '15.23',
  ])
  expect(merged.troubles[0]).toMatch(/^15.23 ms of silence are left .* Poll slower than every 34.77 ms/)
  const apart = judgePoll({ ...poll, pollMs: 50 })
  expect([apart.leftMs.toFixed(1), apart.troubles]).toEqual(['45.2', []])
  expect(judgePoll({ ...poll, pollMs: 500, bufferBytes: 40 }).troubles).toEqual([
    'The answer of 50 bytes does not go into a buffer of 40.',
  ])
})

test('one destination for each port', () => {
  const entries = [
    { port: 'A', destination: 'M:0' },
    { port: 'A', destination: 'M:0' },
    { port: 'B', destination: 'M:1' },
    { port: 'B', destination: 'M:2' },
  ]
  expect(sharedPorts(entries)).toEqual(['B'])
})

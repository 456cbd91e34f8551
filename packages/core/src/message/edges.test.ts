import { readLineSettings } from '../serial'
import {
  judgePoll,
  printed,
  readLayout,
  readWord,
  splitAnswer,
  wordsOfBytes,
  type AnswerLayout,
  type CommandPoll,
} from '.'

// What lies exactly on an edge, and what is refused.

describe('the fields of an answer, one line each', () => {
  const fields = (text: string) => {
    const read = readLayout(text)
    return read.ok ? read.value : read.refusal.what
  }

  test('a name, a colon, a type, an order; blanks around them and blank lines do not count', () => {
    expect(fields('\n  Flow rate :  float32   cdab \r\n\r\nState:uint8\nSigned: INT8\nTotal: uint32')).toEqual([
      { name: 'Flow rate', format: { type: 'float32', order: 'CDAB' } },
      { name: 'State', format: 'uint8' },
      { name: 'Signed', format: 'int8' },
      { name: 'Total', format: { type: 'uint32', order: 'ABCD' } },
    ])
  })

  test('a text takes an even number of bytes, at most 250', () => {
    expect(fields('Name: text 8')).toEqual([{ name: 'Name', format: { type: 'ascii', order: 'ABCD', registers: 4 } }])
    expect(fields('Name: text 250')).toEqual([
      { name: 'Name', format: { type: 'ascii', order: 'ABCD', registers: 125 } },
    ])
    for (const bytes of ['', '0', '7', '252', '-2', 'x'])
      expect(fields(`Name: text ${bytes}`)).toMatch(/^Line 1: .* is no field/)
  })

  test.each([
    ['Flow float32', 1],
    ['State: uint8\nFlow: float32 ABDC', 2],
    ['State: uint8 ABCD', 1],
    ['State: int8 x', 1],
    ['\n: uint16', 2],
    ['Flow: float16', 1],
    ['Flow: float32 ABCD more', 1],
    ['x Flow:', 1],
  ])('%j is refused at line %i', (text, line) => {
    expect(fields(text)).toMatch(new RegExp(`^Line ${line}: `))
  })

  test('nothing is nothing', () => {
    expect([fields(''), fields(' \r\n ')]).toEqual(['No field is written down yet.', 'No field is written down yet.'])
  })
})

test('a poll whose silence is exactly the gap merges; a hair more keeps the packets apart', () => {
  const read = readLineSettings('9600 8N1')
  if (!read.ok) throw new Error(read.refusal.what)
  const poll: CommandPoll = {
    settings: read.value,
    pollMs: 0,
    requestBytes: 12,
    answerBytes: 24,
    deviceMs: 20,
    gapMs: 50,
    bufferBytes: 24,
  }
  // 36 characters of ten bits at 9600 take 37.5 ms: with 20 ms of the device and 50 ms of gap, 107.5 ms.
  const at = (pollMs: number, more: Partial<CommandPoll> = {}) => judgePoll({ ...poll, pollMs, ...more })
  expect(at(107.5).leftMs).toBeCloseTo(50, 9)
  expect(at(107.5).troubles).toEqual([
    '50 ms of silence are left and a packet ends only after 50 ms: packets merge. Poll slower than every 107.5 ms.',
  ])
  expect(at(107.6).troubles).toEqual([])
  // A poll as long as the gap leaves less than nothing.
  expect(at(50).leftMs).toBeCloseTo(-7.5, 9)
  expect(at(50).troubles).toHaveLength(1)
  // The buffer takes exactly the answer; one byte less does not.
  expect(at(200, { bufferBytes: 23 }).troubles).toEqual(['The answer of 24 bytes does not go into a buffer of 23.'])
  expect(at(200, { bufferBytes: undefined }).troubles).toEqual([])
})

test('the first and the last character that can be printed, and their neighbours', () => {
  expect(printed([0x1f, 0x20, 0x7e, 0x7f])).toBe('<1F> ~<7F>')
})

test('words at the ends of what fits', () => {
  const word = (text: string) => {
    const read = readWord(text)
    return read.ok ? [read.value.word, read.value.meant] : read.refusal.what
  }
  expect(word(' -32768 ')).toEqual([0x8000, '-32768 is 8000, -32768 with a sign, 32768 without one'])
  expect(word('65535')).toEqual([0xffff, '65535 is FFFF, -1 with a sign, 65535 without one'])
  expect(word('32767')).toEqual([0x7fff, '32767 is 7FFF'])
  expect(word('-32769')).toBe('-32769 does not fit 16 bits.')
  expect(word('65536')).toBe('65536 does not fit 16 bits.')
  expect(word('0x1C350')).toBe('"0x1C350" is no word.')
  expect(word('a0xC350')).toBe('"a0xC350" is no word.')
  expect(wordsOfBytes([0x80, 0x00, 0x7f, 0xff], 'end').signed).toEqual([-32_768, 32_767])
})

test('a byte with a sign turns at 128, one without does not; a refused length says each part', () => {
  const layout: AnswerLayout = {
    headerBytes: 1,
    fields: [
      { name: 'plain', format: 'uint8' },
      { name: 'signed', format: 'int8' },
    ],
    checksum: 'none',
    endBytes: 1,
  }
  const values = (bytes: readonly number[]) => {
    const read = splitAnswer(bytes, layout)
    return read.ok ? read.value.fields.map(({ text }) => text) : read.refusal.what
  }
  expect(values([1, 127, 127, 13])).toEqual(['127', '127'])
  expect(values([1, 128, 128, 13])).toEqual(['128', '-128'])
  expect(values([1, 128, 13])).toBe(
    'The layout takes 4 bytes (1 of header, 2 of fields, 0 of check, 1 at the end); 3 are here.',
  )
})

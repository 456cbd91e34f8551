import { aligned, type Look } from './looks'
import { readPastedWords } from './readWords'

const read = (text: string, from = 100) => {
  const words = readPastedWords(text, from)
  return words.ok ? [words.value.first, ...words.value.words] : words.refusal.what
}

test('one line of words from a register on: hexadecimal where a letter stands, else numbers with a sign or without', () => {
  expect(read('4229 999A 0000')).toEqual([100, 0x4229, 0x999a, 0])
  expect(read('17001, 40000, -1')).toEqual([100, 17_001, 40_000, 0xffff])
  expect(read('0x4229 0x0001')).toEqual([100, 0x4229, 1])
})

test('lines of a register and its word: a gap stays open', () => {
  expect(read('40101 4229\n40103 999A')).toEqual([100, 0x4229, undefined, 0x999a])
  expect(read('12: 5\n11: 7')).toEqual([11, 7, 5])
})

test('what is no word, no register, or too far apart says so', () => {
  expect(read('4229 G000')).toBe('"G000" is no word of 16 bits.')
  expect(read('70000')).toBe('"70000" is no word of 16 bits.')
  expect(read('')).toBe('No words are given.')
  expect(read('4x 1\n7y 2')).toBe('"4x" is no register.')
  expect(read('1 5\n900 6')).toBe('These registers lie 900 apart.')
})

test('windows that begin at different registers are brought to one beginning', () => {
  const look = (first: number, words: readonly number[]): Look => ({
    at: 0,
    first,
    words,
    origin: '',
    tag: undefined,
    screen: undefined,
  })
  expect(aligned([look(12, [1, 2]), look(10, [7, 8, 9])])).toMatchObject({
    first: 10,
    samples: [{ words: [undefined, undefined, 1, 2] }, { words: [7, 8, 9] }],
  })
  expect(aligned([])).toEqual({ first: 0, samples: [] })
})

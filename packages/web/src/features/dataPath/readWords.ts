import { parseReference } from '@calm/core/modbus'
import { readWord } from '@calm/core/message'
import { ok, refusal, type Result } from '@calm/core/units'

/** Words that somebody pasted, from their first register on. */
export interface PastedWords {
  readonly first: number
  readonly words: readonly (number | undefined)[]
}

const EXPECTED = 'words as 4229 999A, or lines with a register and its word'
const isHexWord = (text: string) => /^[0-9a-f]{4}$/i.test(text)

/**
 * Words out of a programming tool: one line with all of them from a stated register on, or lines of a register and its
 * word. Four digits are hexadecimal where one of them has a letter; else whole numbers, with a sign or without.
 */
export function readPastedWords(text: string, from: number): Result<PastedWords> {
  const lines = text
    .split(/\r?\n/)
    .map((line) => line.trim())
    .filter((line) => line !== '')
  if (lines.length === 0) return refusal('words.blank', 'No words are given.', 'nothing', EXPECTED)
  const cells = lines.map((line) => line.split(/[\s,;:=]+/).filter((cell) => cell !== ''))
  const isPairs = cells.length > 1 && cells.every((line) => line.length === 2)
  const tokens = isPairs ? cells.map(([, word = '']) => word) : cells.flat()
  const hex = tokens.some((token) => isHexWord(token) && /[a-f]/i.test(token)) && tokens.every(isHexWord)
  const words: number[] = []
  for (const token of tokens) {
    const read = readWord(hex ? `0x${token}` : token)
    if (!read.ok) return refusal('words.word', `"${token}" is no word of 16 bits.`, token, EXPECTED)
    words.push(read.value.word)
  }
  if (!isPairs) return ok({ first: from, words })
  const places: number[] = []
  for (const [register = ''] of cells) {
    const read = parseReference(register)
    const address = read.ok ? read.value[0]?.address : undefined
    if (address === undefined) return refusal('words.register', `"${register}" is no register.`, register, EXPECTED)
    places.push(address)
  }
  const first = Math.min(...places)
  const span = Math.max(...places) - first + 1
  if (span > 200) return refusal('words.span', `These registers lie ${span} apart.`, `${span} registers`, 'at most 200')
  const all: (number | undefined)[] = Array.from({ length: span }, () => undefined)
  places.forEach((place, k) => (all[place - first] = words[k]))
  return ok({ first, words: all })
}

import type { ByteFirst, Channel, Head, Module, PackingRule } from './modules'

/** Where one value lies in the image of one direction. Bytes and words count from 0. */
export interface MappedChannel {
  readonly module: string
  /** Place of the module in the row, from 0. */
  readonly slot: number
  readonly name: string
  readonly bits: number
  readonly byte: number
  /** Bit of that byte, 0 the lowest; 0 for whole bytes. */
  readonly bit: number
  /** It begins in the upper byte of a word and goes on in the next one. */
  readonly straddles: boolean
}

/** The image of one direction. */
export interface Image {
  readonly channels: readonly MappedChannel[]
  readonly bytes: number
  /** As it is entered where sizes are counted in words: a last half word counts whole. */
  readonly words: number
}

export interface ImageMap {
  readonly inputs: Image
  readonly outputs: Image
  /** The first module whose size is not known: from there on nothing is placed. */
  readonly stopsAt: string | undefined
}

/**
 * Places the values of modules in slot order.
 *
 * @example mapImage([{ name: 'DI 8', inputs: eightBits, outputs: [] }, ...], 'bytes', { inputBytes: 0, outputBytes: 0 })
 */
export function mapImage(modules: readonly Module[], rule: PackingRule, head: Head): ImageMap {
  const unknown = modules.findIndex(({ inputs, outputs }) => inputs === undefined || outputs === undefined)
  const known = unknown < 0 ? modules : modules.slice(0, unknown)
  return {
    inputs: imageOf(known, ({ inputs }) => inputs ?? [], rule, head.inputBytes),
    outputs: imageOf(known, ({ outputs }) => outputs ?? [], rule, head.outputBytes),
    stopsAt: modules[unknown]?.name,
  }
}

const up = (bits: number, to: number) => Math.ceil(bits / to) * to

function imageOf(
  modules: readonly Module[],
  side: (module: Module) => readonly Channel[],
  rule: PackingRule,
  headBytes: number,
): Image {
  const channels: MappedChannel[] = []
  let at = headBytes * 8
  modules.forEach((module, slot) => {
    const own = side(module)
    if (own.length === 0) return
    at = up(at, rule === 'words' ? 16 : 8)
    for (const { name, bits } of own) {
      // Whole bytes never begin inside one; single bits fill it up.
      if (bits >= 8) at = up(at, rule === 'aligned' ? alignmentOf(bits) : 8)
      const byte = Math.floor(at / 8)
      channels.push({
        module: module.name,
        slot,
        name,
        bits,
        byte,
        bit: at % 8,
        straddles: bits >= 16 && byte % 2 === 1,
      })
      at += bits
    }
    at = up(at, rule === 'words' ? 16 : 8)
  })
  const bytes = at / 8
  return { channels, bytes, words: Math.ceil(bytes / 2) }
}

/** 8, 16, 32 or 64 bits: the next power of two, at most eight bytes. */
const alignmentOf = (bits: number): number => Math.min(64, 2 ** Math.ceil(Math.log2(Math.max(8, bits))))

/** How controllers count `%IW`: in bytes, as `%IX` does, or in words. The standard leaves it to the maker. */
export type WordCount = 'bytes' | 'words'

/**
 * Address of a value in the controller. A value that its notation cannot reach is given byte by byte.
 * @source IEC 61131-3, 6.5.5 (directly represented variables); the hierarchy of numbers is the maker's
 * @example addressOf({ byte: 0, bit: 3, bits: 1, ... }, 'input', 'bytes') // '%IX0.3'
 */
export function addressOf({ byte, bit, bits }: MappedChannel, side: 'input' | 'output', count: WordCount): string {
  const letter = side === 'input' ? 'I' : 'Q'
  if (bits < 8) return `%${letter}X${byte}.${bit}`
  const size = bits <= 8 ? 1 : bits <= 16 ? 2 : bits <= 32 ? 4 : 8
  const prefix = { 1: 'B', 2: 'W', 4: 'D', 8: 'L' }[size] ?? 'B'
  if (size === 1) return `%${letter}B${byte}`
  if (count === 'bytes') return `%${letter}${prefix}${byte}`
  return byte % size === 0
    ? `%${letter}${prefix}${byte / size}`
    : Array.from({ length: size }, (_, k) => `%${letter}B${byte + k}`).join(' ')
}

/** @example placeText({ byte: 3, bit: 0, bits: 16, ... }) // 'word 1 high to word 2 low (bytes 3-4)' */
export function placeText({ byte, bit, bits }: MappedChannel): string {
  const half = (at: number) => `word ${Math.floor(at / 2)} ${at % 2 === 0 ? 'low' : 'high'}`
  if (bits < 8) {
    const last = bit + bits - 1
    return `${half(byte)} (byte ${byte}, bit${bits === 1 ? ` ${bit}` : `s ${bit}-${last}`})`
  }
  const end = byte + Math.ceil(bits / 8) - 1
  if (end === byte) return `${half(byte)} (byte ${byte})`
  if (byte % 2 === 0 && end === byte + 1) return `word ${byte / 2} (bytes ${byte}-${end})`
  return `${half(byte)} to ${half(end)} (bytes ${byte}-${end})`
}

/** One step of putting a value together: so many bits of a word, moved to where they belong. */
export interface Piece {
  readonly word: number
  readonly half: 'low' | 'high'
  /** How far to the left in the value. */
  readonly shift: number
}

/** The bytes of a value, as pieces of words that add up to it: what a program does where a value straddles words. */
export function piecesOf({ byte, bits }: MappedChannel, first: ByteFirst): readonly Piece[] {
  const count = Math.ceil(bits / 8)
  return Array.from({ length: count }, (_, k) => ({
    word: Math.floor((byte + k) / 2),
    half: (byte + k) % 2 === 0 ? 'low' : 'high',
    shift: 8 * (first === 'low' ? k : count - 1 - k),
  }))
}

/** The value that pieces make of an image in words. Whole numbers without a sign. */
export const rebuilt = (pieces: readonly Piece[], words: readonly number[]): number =>
  pieces.reduce((sum, { word, half, shift }) => {
    const byte = half === 'low' ? (words[word] ?? 0) & 255 : (words[word] ?? 0) >>> 8
    return sum + byte * 2 ** shift
  }, 0)

/** @example piecesText(pieces) // '(word 0 >> 8) + (word 1 & 255) * 256' */
export const piecesText = (pieces: readonly Piece[]): string =>
  [...pieces]
    .sort((a, b) => a.shift - b.shift)
    .map(({ word, half, shift }) => {
      const byte = half === 'low' ? `(word ${word} & 255)` : `(word ${word} >> 8)`
      return shift === 0 ? byte : `${byte} * ${2 ** shift}`
    })
    .join(' + ')

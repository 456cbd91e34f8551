import { crc16, lrc } from '../modbus'

/** A check over bytes, as it is sent. */
export interface Checksum {
  readonly name: string
  readonly of: (bytes: readonly number[]) => readonly number[]
}

/** A cyclic redundancy check of 8, 16 or 32 bits by its parameters. */
export interface CrcParameters {
  readonly width: 8 | 16 | 32
  readonly poly: number
  readonly init: number
  readonly reflected: boolean
  readonly xorOut: number
}

const reflect = (value: number, bits: number): number => {
  let turned = 0
  for (let k = 0; k < bits; k += 1) if ((value >>> k) & 1) turned |= 1 << (bits - 1 - k)
  return turned >>> 0
}

/**
 * Any check that has these parameters, bit by bit.
 * @source the catalogue of parametrised CRC algorithms: width, poly, init, refin = refout, xorout
 */
export function crcOf(bytes: readonly number[], { width, poly, init, reflected, xorOut }: CrcParameters): number {
  const top = 2 ** (width - 1)
  const mask = width === 32 ? 0xffff_ffff : 2 ** width - 1
  let sum = init >>> 0
  for (const byte of bytes) {
    sum = (sum ^ ((reflected ? reflect(byte, 8) : byte) << (width - 8))) >>> 0
    for (let k = 0; k < 8; k += 1) sum = ((sum & top) !== 0 ? (sum << 1) ^ poly : sum << 1) & mask
    sum >>>= 0
  }
  return ((reflected ? reflect(sum, width) : sum) ^ xorOut) >>> 0
}

const high = (value: number, count: number) =>
  Array.from({ length: count }, (_, k) => (value >>> (8 * (count - 1 - k))) & 255)
const low = (value: number, count: number) => [...high(value, count)].reverse()
const crc = (name: string, parameters: CrcParameters, send: typeof high): Checksum => ({
  name,
  of: (bytes) => send(crcOf(bytes, parameters), parameters.width / 8),
})
const sum = (bytes: readonly number[]) => bytes.reduce((all, byte) => all + byte, 0)

export type ChecksumId =
  'none' | 'modbus' | 'arc' | 'ccitt' | 'xmodem' | 'crc32' | 'crc8' | 'lrc' | 'xor' | 'sum8' | 'sum16'

/** @source the catalogue of parametrised CRC algorithms; Modbus over Serial Line V1.02, 6.2; sums are common practice */
export const checksums: Readonly<Record<ChecksumId, Checksum>> = {
  none: { name: 'none', of: () => [] },
  modbus: { name: 'CRC-16 Modbus, low byte first', of: (bytes) => low(crc16(Uint8Array.from(bytes)), 2) },
  arc: crc('CRC-16 ARC, low byte first', { width: 16, poly: 0x8005, init: 0, reflected: true, xorOut: 0 }, low),
  ccitt: crc(
    'CRC-16 IBM-3740 (init FFFF), high byte first',
    { width: 16, poly: 0x1021, init: 0xffff, reflected: false, xorOut: 0 },
    high,
  ),
  xmodem: crc(
    'CRC-16 XMODEM (init 0), high byte first',
    { width: 16, poly: 0x1021, init: 0, reflected: false, xorOut: 0 },
    high,
  ),
  crc32: crc(
    'CRC-32 ISO-HDLC, low byte first',
    { width: 32, poly: 0x04c1_1db7, init: 0xffff_ffff, reflected: true, xorOut: 0xffff_ffff },
    low,
  ),
  crc8: crc('CRC-8 SMBUS', { width: 8, poly: 0x07, init: 0, reflected: false, xorOut: 0 }, high),
  lrc: { name: 'LRC: two’s complement of the sum', of: (bytes) => [lrc(Uint8Array.from(bytes))] },
  xor: { name: 'XOR of all bytes', of: (bytes) => [bytes.reduce((all, byte) => all ^ byte, 0)] },
  sum8: { name: 'sum, one byte', of: (bytes) => [sum(bytes) & 255] },
  sum16: { name: 'sum, two bytes, high byte first', of: (bytes) => high(sum(bytes) & 0xffff, 2) },
}

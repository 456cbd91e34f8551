import type { SerialSettings } from './settings'

/** Bits of one character on the line: start bit, data bits, parity, stop bits. */
export const characterBits = ({ dataBits, parity, stopBits }: SerialSettings): number =>
  1 + dataBits + (parity === 'none' ? 0 : 1) + stopBits

/** Milliseconds of one character on the line. */
export const characterMs = (settings: SerialSettings): number => (1000 * characterBits(settings)) / settings.baudRate

/** Above this rate the silences are fixed, whatever a character takes. @source Modbus over Serial Line V1.02, 2.5.1.1 */
const FIXED_ABOVE = 19_200

/**
 * The longest silence inside a frame: 1.5 characters, and above 19 200 bit/s a fixed 0.75 ms.
 * @source Modbus over Serial Line V1.02, 2.5.1.1
 */
export const insideGapMs = (settings: SerialSettings): number =>
  settings.baudRate > FIXED_ABOVE ? 0.75 : 1.5 * characterMs(settings)

/**
 * The silence that ends a frame: 3.5 characters, and above 19 200 bit/s a fixed 1.75 ms.
 * @source Modbus over Serial Line V1.02, 2.5.1.1
 */
export const frameGapMs = (settings: SerialSettings): number =>
  settings.baudRate > FIXED_ABOVE ? 1.75 : 3.5 * characterMs(settings)

/** Milliseconds that so many bytes are on the line, without a gap between them. */
export const wireMs = (settings: SerialSettings, bytes: number): number => bytes * characterMs(settings)

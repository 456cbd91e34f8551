/** Line settings of a serial port. */
export interface SerialSettings {
  readonly baudRate: number
  readonly dataBits: 5 | 6 | 7 | 8
  readonly parity: 'none' | 'even' | 'odd'
  readonly stopBits: 1 | 2
}

/**
 * Reads settings in short.
 * @example serialSettings('9600 8N1') // 9 600 baud, 8 data bits, no parity, 1 stop bit
 */
export function serialSettings(text: string): SerialSettings | undefined {
  const found = /^(\d{2,7})\s+([5-8])([NEO])([12])$/i.exec(text.trim())
  if (!found) return undefined
  const parity = ({ N: 'none', E: 'even', O: 'odd' } as const)[(found[3] ?? 'N').toUpperCase() as 'N' | 'E' | 'O']
  return {
    baudRate: Number(found[1]),
    dataBits: Number(found[2]) as SerialSettings['dataBits'],
    parity,
    stopBits: Number(found[4]) as 1 | 2,
  }
}

/** Milliseconds of one character on the line: start bit, data bits, parity, stop bits. */
export const characterMs = ({ baudRate, dataBits, parity, stopBits }: SerialSettings): number =>
  (1000 * (1 + dataBits + (parity === 'none' ? 0 : 1) + stopBits)) / baudRate

/**
 * The silence that ends a frame: 3.5 characters, and above 19 200 baud a fixed 1.75 ms.
 * @source Modbus over Serial Line V1.02, 2.5.1.1
 */
export const frameGapMs = (settings: SerialSettings): number =>
  settings.baudRate > 19_200 ? 1.75 : 3.5 * characterMs(settings)

import { ok, refusal, type Offer, type Result } from '../units'

export type Parity = 'none' | 'even' | 'odd'

/** How characters go over a serial line. */
export interface SerialSettings {
  readonly baudRate: number
  readonly dataBits: 5 | 6 | 7 | 8
  readonly parity: Parity
  readonly stopBits: 1 | 2
}

/** Bit rates that devices offer. Common practice, no source. */
export const usualRates: readonly number[] = [
  300, 600, 1200, 2400, 4800, 9600, 14_400, 19_200, 28_800, 38_400, 57_600, 76_800, 115_200, 230_400, 460_800, 921_600,
]

/** Below and above these a text means something else than a bit rate. */
const RATES = { least: 50, most: 12_000_000 } as const

/** So near to a usual rate another one is mistyped: both ends would hear each other now and then. An assumption. */
const MISTYPED = 0.05

const EXPECTED = 'bit rate, data bits, parity and stop bits, for example 9600 8N1'

const parityLetters: Readonly<Record<string, Parity>> = {
  n: 'none',
  no: 'none',
  none: 'none',
  e: 'even',
  even: 'even',
  o: 'odd',
  odd: 'odd',
}

/** Bit rate, data bits, parity, stop bits, with anything usual between them: spaces, commas, slashes, `baud`. */
const SHORT =
  /^(\d+(?:[.,]\d+)?)\s*(k)?\s*(?:baud|bd|bit\/s|bps)?[\s,;/:-]*([0-9]+)[\s,;/-]*(none|no|even|odd|[neo])[\s,;/-]*([0-9])$/i

/**
 * Reads the settings of a line as people and manuals write them: `9600 8N1`, `19200,8,E,1`, `115.2k 8-N-1`.
 *
 * @returns a refusal with the usual rate as an offer where the rate is nearly one; rates far from all of them are taken
 * @example readLineSettings('9600 8E1') // 9 600 bit/s, 8 data bits, even parity, 1 stop bit
 */
export function readLineSettings(text: string): Result<SerialSettings> {
  const typed = text.trim()
  if (typed === '') return refusal('line.blank', 'The settings of the line are blank.', 'nothing', EXPECTED)
  const found = SHORT.exec(typed)
  if (!found) return refusal('line.unreadable', `"${typed}" is not the setting of a line.`, typed, EXPECTED)
  const [, rate = '', thousands, data = '', letter = '', stop = ''] = found
  const baudRate = Math.round(Number(rate.replace(',', '.')) * (thousands ? 1000 : 1))
  const tail = `${data}${letter[0]?.toUpperCase()}${stop}`
  if (baudRate < RATES.least || baudRate > RATES.most)
    return refusal('line.rate', `${baudRate} bit/s is no rate of a serial line.`, typed, EXPECTED)
  const near = nearestRate(baudRate)
  if (near !== baudRate && Math.abs(baudRate / near - 1) < MISTYPED) {
    const offer = [use(`${near} ${tail}`)]
    return refusal(
      'line.rate',
      `${baudRate} bit/s is nearly ${near}, and no rate that devices have.`,
      typed,
      EXPECTED,
      offer,
    )
  }
  const dataBits = Number(data)
  if (!isDataBits(dataBits))
    return refusal('line.data-bits', `A character has 5 to 8 data bits, not ${data}.`, typed, EXPECTED)
  const stopBits = Number(stop)
  if (stopBits !== 1 && stopBits !== 2)
    return refusal('line.stop-bits', `A character ends with 1 or 2 stop bits, not ${stop}.`, typed, EXPECTED)
  return ok({ baudRate, dataBits, parity: parityLetters[letter.toLowerCase()] ?? 'none', stopBits })
}

const isDataBits = (count: number): count is SerialSettings['dataBits'] => count >= 5 && count <= 8
const use = (text: string): Offer => ({ label: `Use ${text}`, value: text })

/** The usual rate that lies nearest, by its ratio. */
function nearestRate(rate: number): number {
  const far = (each: number) => Math.abs(Math.log(each / rate))
  return usualRates.reduce((best, each) => (far(each) < far(best) ? each : best))
}

/** @example lineSettingsText({ baudRate: 9600, dataBits: 8, parity: 'none', stopBits: 1 }) // '9600 8N1' */
export function lineSettingsText({ baudRate, dataBits, parity, stopBits }: SerialSettings): string {
  return `${baudRate} ${dataBits}${parity[0]?.toUpperCase()}${stopBits}`
}

import { usualRates, type Parity, type SerialSettings } from './settings'

/** How the characters of a Modbus line are written. */
export type Variant = 'rtu' | 'ascii'

/** `never`: nothing passes, or only wrong characters. `worth-knowing`: it works, or it works with some devices. */
export type FormatVerdict = 'never' | 'worth-knowing'

/** One way in which two ends of a line, or one end and the standard, differ. */
export interface FormatFinding {
  readonly id: 'rate' | 'data-bits' | 'parity' | 'stop-bits' | 'variant-bits' | 'no-parity-stop' | 'unusual-rate'
  readonly verdict: FormatVerdict
  readonly say: string
  readonly why: string
}

const parityWords: Readonly<Record<Parity, string>> = { none: 'no parity', even: 'even parity', odd: 'odd parity' }

/**
 * What two ends of a line make of each other's characters, both ways. Nothing found: they agree and so does the
 * standard.
 *
 * Differing parity never works, also where the characters are equally long: a receiver that expects a parity bit reads
 * it where the other sends a stop bit.
 * @source Modbus over Serial Line V1.02, 2.5.1 and 2.5.2 (bits of a character); TIA/EIA practice of asynchronous
 * reception, common practice, no source
 */
export function judgeFormats(one: SerialSettings, other: SerialSettings, variant: Variant): readonly FormatFinding[] {
  const found: FormatFinding[] = []
  if (one.baudRate !== other.baudRate)
    found.push({
      id: 'rate',
      verdict: 'never',
      say: `${one.baudRate} bit/s here, ${other.baudRate} bit/s there.`,
      why: 'Each end takes a bit where the other has none.',
    })
  if (one.dataBits !== other.dataBits)
    found.push({
      id: 'data-bits',
      verdict: 'never',
      say: `${one.dataBits} data bits here, ${other.dataBits} there.`,
      why: 'The last data bit of one is the parity or stop bit of the other.',
    })
  if (one.parity !== other.parity)
    found.push({
      id: 'parity',
      verdict: 'never',
      say: `${capital(parityWords[one.parity])} here, ${parityWords[other.parity]} there.`,
      why: 'The unit stays silent.',
    })
  if (one.stopBits !== other.stopBits)
    found.push({
      id: 'stop-bits',
      verdict: 'worth-knowing',
      say: `${one.stopBits} stop bit${one.stopBits === 1 ? '' : 's'} here, ${other.stopBits} there.`,
      why: 'Two stop bits are taken by an end that wants one. One is taken by an end that wants two only if it does not look for the second.',
    })
  return found.length > 0 ? found : standardOf(one, variant)
}

/** What the standard says to a format that both ends have. */
function standardOf(settings: SerialSettings, variant: Variant): readonly FormatFinding[] {
  const { baudRate, dataBits, parity, stopBits } = settings
  if (variant === 'rtu' ? dataBits !== 8 : dataBits !== 7 && dataBits !== 8)
    return [
      {
        id: 'variant-bits',
        verdict: 'never',
        say: `${dataBits} data bits for Modbus ${variant === 'rtu' ? 'RTU' : 'ASCII'}.`,
        why:
          variant === 'rtu'
            ? 'RTU sends whole bytes: it needs 8 data bits.'
            : 'ASCII sends letters: it needs 7 data bits, 8 are taken too.',
      },
    ]
  const unusual: readonly FormatFinding[] = usualRates.includes(baudRate)
    ? []
    : [
        {
          id: 'unusual-rate',
          verdict: 'worth-knowing',
          say: `${baudRate} bit/s is no usual rate.`,
          why: 'See whether both ends, and every adapter between them, have it.',
        },
      ]
  if (parity === 'none' && stopBits === 1)
    return [
      ...unusual,
      {
        id: 'no-parity-stop',
        verdict: 'worth-knowing',
        say: 'One stop bit without parity.',
        why: 'The standard asks for two stop bits then; one is common, and works where both ends have it.',
      },
    ]
  return unusual
}

const capital = (text: string) => `${text[0]?.toUpperCase() ?? ''}${text.slice(1)}`
